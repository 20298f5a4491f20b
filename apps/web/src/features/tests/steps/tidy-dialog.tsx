import { printStep } from '@kindred-baton/core/tests/print-step';
import type { Step } from '@kindred-baton/core/tests/step';
import type { TidyProposal } from '@kindred-baton/core/tests/tidy/proposal';
import { applyProposal } from '@kindred-baton/core/tests/tidy/proposal';
import { proposeTidying, tidyAll, toProposalKey } from '@kindred-baton/core/tests/tidy/rules';
import { useState } from 'react';
import { DialogBox } from '../../../ui/dialog.tsx';
import { countOf } from '../../../ui/format.ts';

interface TidyDialogProps {
  readonly steps: readonly Step[];
  readonly onTidy: (steps: readonly Step[], inputs: Readonly<Record<string, string>>) => void;
  readonly onClose: () => void;
}

/** What could be simpler, with before and after: taken in one by one, refused, or all at once. */
export default function TidyDialog({ steps, onTidy, onClose }: TidyDialogProps) {
  const [refused, setRefused] = useState<ReadonlySet<string>>(new Set());
  const proposals = proposeTidying(steps, refused);
  const take = (proposal: TidyProposal) => onTidy(applyProposal(steps, proposal), proposal.inputs ?? {});
  const takeAll = () => {
    const tidied = tidyAll(steps, refused);
    onTidy(tidied.steps, tidied.inputs);
  };
  return (
    <DialogBox
      title={proposals.length === 0 ? 'Nothing more to tidy' : `Tidy: ${countOf(proposals.length, 'proposal')}`}
      isOpen
      onClose={onClose}
      width={760}
    >
      <ul className="max-h-[56vh] overflow-auto">
        {proposals.map((proposal) => (
          <li key={toProposalKey(proposal)} className="border-b border-line-2 py-3 first:pt-0 last:border-b-0">
            <div className="flex items-start gap-2">
              <p className="mr-auto font-semibold">{proposal.reason}</p>
              <button
                type="button"
                className="button button-small"
                onClick={() => setRefused(new Set([...refused, toProposalKey(proposal)]))}
              >
                Leave it
              </button>
              <button type="button" className="button button-small" onClick={() => take(proposal)}>
                Take it
              </button>
            </div>
            <div className="mt-1 grid gap-x-4 text-[13px] sm:grid-cols-2">
              <Side
                title="Now"
                lines={proposal.replacements.flatMap(({ at, before }) =>
                  before.map((step, index) => `${at + index + 1}. ${printStep(step)}`),
                )}
              />
              <Side title="Then" lines={proposal.replacements.flatMap(({ after }) => after.map(printStep))} />
            </div>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex justify-end gap-2">
        <button type="button" className="button" onClick={onClose}>
          Close
        </button>
        {proposals.length > 0 && (
          <button type="button" className="button button-primary" onClick={takeAll}>
            Take all in
          </button>
        )}
      </div>
    </DialogBox>
  );
}

function Side({ title, lines }: { readonly title: string; readonly lines: readonly string[] }) {
  return (
    <div>
      <span className="text-soft">{title}</span>
      {lines.map((line, index) => (
        <span key={index} className="block">
          {line}
        </span>
      ))}
      {lines.length === 0 && <span className="block text-soft">nothing</span>}
    </div>
  );
}
