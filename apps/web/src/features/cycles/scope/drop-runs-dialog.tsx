import { useChanges } from '../../../client/use-changes.ts';
import { useRead } from '../../../client/use-read.ts';
import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { DialogBox } from '../../../ui/dialog.tsx';
import { TextArea } from '../../../ui/field.tsx';
import { countOf, formatMinutes } from '../../../ui/format.ts';
import { FormFoot, useForm } from '../../../ui/use-form.tsx';

interface DropRunsDialogProps {
  readonly cycle: CycleDetail;
  readonly runs: readonly string[];
  readonly onClose: () => void;
  readonly onDone: () => void;
}

/** Says what taking runs out sets aside before it is done. */
export function DropRunsDialog({ cycle, runs, onClose, onDone }: DropRunsDialogProps) {
  const { change } = useChanges();
  const params = { code: cycle.code };
  const { data: effects } = useRead('getScopeEffects', { params, input: { runs: [...runs] } });
  const form = useForm(async ({ why = '' }) => {
    await change('changeScope', { params, input: { add: [], drop: [...runs], why } });
    onDone();
  });
  const isOpen = cycle.state === 'open';
  return (
    <DialogBox title={`Take ${countOf(runs.length, 'run')} out of ${cycle.name}`} isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        {!effects ? (
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
        <FormFoot form={form} label="Take out" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
