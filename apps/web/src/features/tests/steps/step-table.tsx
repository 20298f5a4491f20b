import type { Problem } from '@kindred-baton/contracts/errors';
import type { Step } from '@kindred-baton/core/tests/step';
import Copy from 'lucide-react/icons/copy';
import Plus from 'lucide-react/icons/plus';
import Trash2 from 'lucide-react/icons/trash-2';
import { Fragment, useRef, useState } from 'react';
import { StepMore } from './step-more.tsx';
import { ReadStepRow, StepRow } from './step-row.tsx';
import type { TrialView } from '@kindred-baton/contracts/runners/trial';
import { findTried, TriedRow } from '../trial/trial-part.tsx';
import type { DraftEvent } from '../test-draft.ts';
import { useStepKeys } from './use-step-keys.ts';

interface StepTableProps {
  readonly steps: readonly Step[];
  readonly canEdit: boolean;
  readonly problems: readonly Problem[];
  readonly personas: readonly string[];
  /** Steps about which something is worth a look. */
  readonly odd: ReadonlySet<number>;
  readonly dispatch: (event: DraftEvent) => void;
  /** What a runner tried: its outcome stands beneath each step. */
  readonly trial?: TrialView | undefined;
}

const HEADS = ['', 'Do', 'On', 'With', 'You should see', 'Keep as'];

/** The steps as a table. */
export function StepTable({ steps, canEdit, problems, personas, odd, dispatch, trial }: StepTableProps) {
  const body = useRef<HTMLTableSectionElement>(null);
  const [open, setOpen] = useState<number | null>(null);
  const keys = useStepKeys(steps, dispatch, body);
  const { marked } = keys;
  return (
    <div className="overflow-x-auto px-2">
      {marked.size > 0 && (
        <div role="toolbar" aria-label="Marked steps" className="flex items-center gap-2 border-b border-line-2 py-1.5 pl-2 text-[13px]">
          <b className="mr-auto">{marked.size} marked</b>
          <button type="button" className="button button-small" onClick={() => keys.act('duplicate', [...marked])}>
            <Copy size={14} aria-hidden /> Duplicate
          </button>
          <button type="button" className="button button-small" onClick={() => keys.act('remove', [...marked])}>
            <Trash2 size={14} aria-hidden /> Take out
          </button>
        </div>
      )}
      {/* The cells are the controls; the table hears their keys. */}
      <table className="grid-table" {...(canEdit ? { onKeyDown: keys.onKeyDown, onPaste: keys.onPaste, onCopy: keys.onCopy } : {})}>
        <thead>
          <tr>
            {HEADS.map((head) => (
              <th key={head} scope="col">
                {head === '' ? <span className="sr-only">Number</span> : head}
              </th>
            ))}
            {canEdit && (
              <th scope="col">
                <span className="sr-only">More</span>
              </th>
            )}
          </tr>
        </thead>
        <tbody ref={body}>
          {steps.map((step, index) => (
            <Fragment key={index}>
              {canEdit ? (
                <StepRow
                  {...{ step, index }}
                  problem={problems.find(({ path }) => path.startsWith(`steps.${index}.`))?.message}
                  isOpen={open === index}
                  isMarked={marked.has(index)}
                  isOdd={odd.has(index)}
                  onChange={(change) => dispatch({ kind: 'step', index, change })}
                  onMark={(event) => keys.mark(index, event)}
                  onMore={() => setOpen(open === index ? null : index)}
                />
              ) : (
                <ReadStepRow step={step} index={index} />
              )}
              <TriedRow result={findTried(trial, step, index)} />
              {canEdit && open === index && (
                <StepMore
                  step={step}
                  personas={personas}
                  onChange={(change) => dispatch({ kind: 'step', index, change })}
                  onDuplicate={() => keys.act('duplicate', [index])}
                  onRemove={() => keys.act('remove', [index])}
                />
              )}
            </Fragment>
          ))}
        </tbody>
      </table>
      {canEdit && (
        <button
          type="button"
          className="button button-quiet my-2 text-soft"
          onClick={() => keys.insert(steps.length)}
          onPaste={keys.onPaste}
        >
          <Plus size={16} aria-hidden /> Add a step, or paste rows of a spreadsheet
        </button>
      )}
      {!canEdit && steps.length === 0 && <p className="px-3 py-8 text-center text-soft">No steps yet.</p>}
    </div>
  );
}
