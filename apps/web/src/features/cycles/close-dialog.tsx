import type { CycleDetail, RunEnds } from '@kindred-baton/contracts/cycles/cycle';
import { LEFTOVER_WAYS } from '@kindred-baton/core/cycles/cycle';
import type { LeavingWay } from '@kindred-baton/core/cycles/cycle';
import { useState } from 'react';
import { useRead } from '../../client/use-read.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { countOf } from '../../ui/format.ts';

export interface Leftover {
  readonly runId: string;
  readonly to: LeavingWay;
  readonly reason: string;
}

interface CloseDialogProps {
  readonly cycle: CycleDetail;
  readonly onClose: () => void;
  readonly onDecide: (left: Leftover[]) => void;
}

/** Closing says what is left, and asks for each run where it goes. */
export function CloseDialog({ cycle, onClose, onDecide }: CloseDialogProps) {
  const { data, error } = useRead('listRunEnds', { params: { code: cycle.code } });
  return (
    <DialogBox title={`Close ${cycle.name}`} isOpen onClose={onClose} width={640}>
      {data ? (
        <Ends ends={data} onClose={onClose} onDecide={onDecide} />
      ) : (
        <p className="text-soft">{error ? error.message : 'Looking what is left …'}</p>
      )}
    </DialogBox>
  );
}

/** So many runs are listed at first; all of them are decided on. */
const SHOWN = 100;

function Ends({ ends, onClose, onDecide }: { readonly ends: RunEnds } & Pick<CloseDialogProps, 'onClose' | 'onDecide'>) {
  const open = ends.runs.filter(({ outcome, leftTo }) => outcome !== 'passed' && outcome !== 'skipped' && leftTo === null);
  const [shown, setShown] = useState(SHOWN);
  const [ways, setWays] = useState<Readonly<Record<string, LeavingWay>>>({});
  const [reason, setReason] = useState('');
  const wayOf = (id: string): LeavingWay => ways[id] ?? 'next cycle';
  const dropped = open.filter(({ id }) => wayOf(id) === 'dropped').length;
  const setAll = (to: LeavingWay) => setWays(Object.fromEntries(open.map(({ id }) => [id, to])));
  const isMissing = dropped > 0 && reason.trim() === '';
  return (
    <>
      <p className="mb-3">
        A closed cycle stays as it is, for ever.{' '}
        {open.length === 0 ? 'Every run is through.' : `${countOf(open.length, 'run is', 'runs are')} not through: say where each goes.`}
      </p>
      {open.length > 0 && (
        <>
          <p className="mb-2 flex flex-wrap gap-2">
            <button type="button" className="button button-small" onClick={() => setAll('next cycle')}>
              All to the next cycle
            </button>
            <button type="button" className="button button-small" onClick={() => setAll('dropped')}>
              Drop all
            </button>
          </p>
          <ul className="mb-3 max-h-[36vh] overflow-y-auto border-y border-line-2">
            {open.slice(0, shown).map((run) => (
              <li key={run.id} className="flex items-center justify-between gap-3 border-b border-line-2 py-1.5 last:border-b-0">
                <span className="min-w-0 text-[13px]">
                  <span className="font-mono text-soft">{run.number}</span> {run.scenario.name}
                  {run.rowName !== null && `, ${run.rowName}`} <span className="text-soft">{run.outcome}</span>
                </span>
                <select
                  className="field w-auto!"
                  aria-label={`Where run ${run.number} goes`}
                  value={wayOf(run.id)}
                  onChange={(event) => setWays({ ...ways, [run.id]: event.target.value as LeavingWay })}
                >
                  {LEFTOVER_WAYS.map((way) => (
                    <option key={way}>{way}</option>
                  ))}
                </select>
              </li>
            ))}
          </ul>
          {open.length > shown && (
            <p className="mb-3 text-[13px]">
              <button type="button" className="button button-small" onClick={() => setShown(shown + SHOWN)}>
                Show {Math.min(SHOWN, open.length - shown)} more
              </button>{' '}
              of the {(open.length - shown).toLocaleString('en')} that are not listed; what is not said of one goes to the next cycle.
            </p>
          )}
          {dropped > 0 && (
            <label className="label">
              Why {countOf(dropped, 'run is', 'runs are')} dropped
              <textarea className="field mt-1 font-normal" rows={2} value={reason} onChange={(event) => setReason(event.target.value)} />
            </label>
          )}
        </>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <button type="button" className="button" onClick={onClose}>
          Not yet
        </button>
        <button
          type="button"
          className="button button-primary"
          disabled={isMissing}
          onClick={() =>
            onDecide(open.map(({ id }) => ({ runId: id, to: wayOf(id), reason: wayOf(id) === 'dropped' ? reason.trim() : '' })))
          }
        >
          Close it
        </button>
      </div>
    </>
  );
}
