import { useChanges } from '../../../client/use-changes.ts';
import { useRead } from '../../../client/use-read.ts';
import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { DialogBox } from '../../../ui/dialog.tsx';
import { TextArea } from '../../../ui/field.tsx';
import { countOf, formatMinutes } from '../../../ui/format.ts';
import { FormFoot, useForm } from '../../../ui/use-form.tsx';

interface DropRunsDialogProps {
  readonly cycle: CycleDetail;
  /** Of the chosen runs. */
  readonly numbers: readonly number[];
  readonly onClose: () => void;
  readonly onDone: () => void;
}

/** Says what taking runs out sets aside before it is done. */
export function DropRunsDialog({ cycle, numbers, onClose, onDone }: DropRunsDialogProps) {
  const { change } = useChanges();
  const params = { code: cycle.code };
  const { data: chosen, error } = useRead('listRuns', { params, input: { numbers: numbers.join(',') } });
  // One that has left meanwhile is out already.
  const runs = chosen?.runs.flatMap(({ id, leftTo }) => (leftTo === null ? [id] : []));
  const { data: effects } = useRead('getScopeEffects', { params, input: { runs: runs ?? [] } }, { enabled: runs !== undefined });
  const form = useForm(async ({ why = '' }) => {
    await change('changeScope', { params, input: { add: [], drop: runs ?? [], why } });
    onDone();
  });
  const isOpen = cycle.state === 'open';
  return (
    <DialogBox title={`Take ${countOf(runs?.length ?? numbers.length, 'run')} out of ${cycle.name}`} isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        {error ? (
          <p className="mb-3 text-failed">{error.message}</p>
        ) : !effects ? (
          <p className="mb-3 text-soft">Looking what hangs on it …</p>
        ) : (
          <ul className="mb-3 grid list-disc gap-1 pl-5">
            <li>
              {countOf(effects.notTried, 'turn')} that nobody has tried{' '}
              {isOpen ? (effects.notTried === 1 ? 'is skipped' : 'are skipped') : 'go'}, {formatMinutes(effects.minutes)} of work.
            </li>
            {isOpen && (
              <li>
                {effects.attempts === 0
                  ? 'No attempt was made yet.'
                  : `${countOf(effects.attempts, 'attempt')} already made ${effects.attempts === 1 ? 'stays' : 'stay'} to be read at the run; its turns count no more.`}
              </li>
            )}
            {effects.openDefects.length > 0 && <li>Open defects stay open: {effects.openDefects.join(', ')}.</li>}
          </ul>
        )}
        {isOpen && <TextArea label="Why" name="why" required rows={2} problem={form.problemOf('why')} />}
        {/* Before it is known which runs these are there is nothing to be taken out. */}
        {runs && <FormFoot form={form} label="Take out" onCancel={onClose} />}
      </form>
    </DialogBox>
  );
}
