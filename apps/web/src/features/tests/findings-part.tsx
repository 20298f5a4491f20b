import { useChanges } from '../../client/use-changes.ts';
import type { TestSurroundings, WaiverView } from '@kindred-baton/contracts/tests/test';
import type { TestFinding } from '@kindred-baton/core/tests/findings/finding';
import { examineTest, toWaiverKey } from '@kindred-baton/core/tests/findings/rules';
import { useEffect, useRef, useState } from 'react';
import { PanelPart } from '../../ui/side-panel.tsx';
import type { TestDraft } from './test-draft.ts';

export interface OpenFindings {
  readonly open: readonly TestFinding[];
  readonly waived: readonly (TestFinding & { readonly waiver: WaiverView })[];
}

/** What is worth a look in the draft as it stands, and what somebody has waived. */
export function findOpenFindings(draft: Pick<TestDraft, 'steps' | 'rows'>, around: TestSurroundings | undefined): OpenFindings {
  if (!around) return { open: [], waived: [] };
  const { reached, neededElsewhere, sharedOpening, waivers } = around;
  const waiverOf = new Map(waivers.map((waiver) => [toWaiverKey(waiver), waiver]));
  const steps = draft.steps.filter(({ target }) => target.trim() !== '');
  const findings = examineTest({ steps, rows: draft.rows, reached, neededElsewhere: new Set(neededElsewhere), sharedOpening });
  return {
    open: findings.filter((finding) => !waiverOf.has(toWaiverKey(finding))),
    waived: findings.flatMap((finding) => {
      const waiver = waiverOf.get(toWaiverKey(finding));
      return waiver ? [{ ...finding, waiver }] : [];
    }),
  };
}

const SHOWN = 6;

/** Each finding with why it matters and a way out; it opens its step, and can be waived with a note. */
export function FindingsPart({
  code,
  findings,
  canEdit,
}: {
  readonly code: string;
  readonly findings: OpenFindings;
  readonly canEdit: boolean;
}) {
  const [isAll, setIsAll] = useState(false);
  const waive = useWaive(code);
  const shown = isAll ? findings.open : findings.open.slice(0, SHOWN);
  return (
    <PanelPart title="Worth a look" count={findings.open.length}>
      {findings.open.length === 0 && <p className="text-[13px] text-soft">Nothing stands out.</p>}
      <ul>
        {shown.map((finding) => (
          <FindingLine
            key={toWaiverKey(finding) + finding.steps.join()}
            finding={finding}
            onWaive={canEdit ? (note) => waive(finding, note) : null}
          />
        ))}
      </ul>
      {findings.open.length > SHOWN && (
        <button type="button" className="button button-quiet button-small" onClick={() => setIsAll(!isAll)}>
          {isAll ? 'Fewer' : `${findings.open.length - SHOWN} more`}
        </button>
      )}
      {findings.waived.length > 0 && (
        <details className="mt-1 text-[13px]">
          <summary className="text-soft">{findings.waived.length} waived</summary>
          <ul>
            {findings.waived.map((finding) => (
              <li key={toWaiverKey(finding) + finding.steps.join()} className="border-t border-line-2 py-1.5">
                {finding.message}
                <span className="block text-soft">
                  “{finding.waiver.note}”, {finding.waiver.by}{' '}
                  {canEdit && (
                    <button type="button" className="underline" onClick={() => void waive(finding, null)}>
                      Take back
                    </button>
                  )}
                </span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </PanelPart>
  );
}

function useWaive(code: string) {
  const { act } = useChanges();
  return async ({ rule, about }: TestFinding, note: string | null): Promise<void> => {
    await act('waiveFinding', { params: { code }, input: { rule, about, note } });
  };
}

/** Shows the step that is meant. */
function goToStep(index: number | undefined) {
  const row = document.querySelector<HTMLElement>(`[data-step="${index ?? 0}"]`);
  row?.scrollIntoView({ block: 'center' });
  row?.querySelector<HTMLElement>('textarea, input')?.focus();
}

function FindingLine({ finding, onWaive }: { readonly finding: TestFinding; readonly onWaive: ((note: string) => Promise<void>) | null }) {
  const [isWaiving, setIsWaiving] = useState(false);
  return (
    <li className="border-t border-line-2 py-2 first:border-t-0">
      <button
        type="button"
        className={`text-left text-[13px] ${finding.weight === 'warning' ? 'font-bold' : ''} ${finding.steps.length > 0 ? 'hover:underline' : ''}`}
        onClick={() => finding.steps.length > 0 && goToStep(finding.steps[0])}
      >
        {finding.message}
      </button>
      <p className="text-[13px] text-soft">{finding.wayOut}</p>
      {onWaive && !isWaiving && (
        <button type="button" className="min-h-[24px] text-[13px] text-soft underline" onClick={() => setIsWaiving(true)}>
          It may stay
        </button>
      )}
      {onWaive && isWaiving && <WaiveForm onWaive={(note) => void onWaive(note).then(() => setIsWaiving(false))} />}
    </li>
  );
}

/** Asked for, it takes the focus. */
function WaiveForm({ onWaive }: { readonly onWaive: (note: string) => void }) {
  const field = useRef<HTMLInputElement>(null);
  const [note, setNote] = useState('');
  useEffect(() => field.current?.focus(), []);
  return (
    <form
      className="mt-1 flex gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (note.trim() !== '') onWaive(note);
      }}
    >
      <input
        ref={field}
        className="field"
        aria-label="Why it may stay"
        placeholder="why it may stay"
        value={note}
        onChange={(event) => setNote(event.target.value)}
      />
      <button type="submit" className="button button-small" disabled={note.trim() === ''}>
        Waive
      </button>
    </form>
  );
}
