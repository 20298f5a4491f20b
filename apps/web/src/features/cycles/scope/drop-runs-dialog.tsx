import type { CycleDetail, ScopeEffects } from '@kindred-baton/contracts/cycles/cycle';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { DialogBox } from '../../../ui/dialog.tsx';
import { TextArea } from '../../../ui/field.tsx';
import { countOf, formatMinutes } from '../../../ui/format.ts';
import { sendJson } from '../../../ui/request.ts';
import { FormFoot, useForm } from '../../../ui/use-form.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';

interface DropRunsDialogProps {
  readonly cycle: CycleDetail;
  readonly runs: readonly string[];
  readonly onClose: () => void;
  readonly onDone: () => void;
}

/** Says what taking runs out sets aside before it is done. */
export function DropRunsDialog({ cycle, runs, onClose, onDone }: DropRunsDialogProps) {
  const { api } = useProgramme();
  const client = useQueryClient();
  const path = `${api}/cycles/${cycle.code}/scope`;
  const { data: effects } = useQuery({
    queryKey: ['cycles', cycle.code, 'effects', runs],
    queryFn: () => sendJson<ScopeEffects>('PUT', path, { runs }),
  });
  const form = useForm(async ({ why = '' }) => {
    await sendJson('POST', path, { add: [], drop: runs, why });
    await client.invalidateQueries({ queryKey: ['cycles'] });
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
                  : `${countOf(effects.attempts, 'attempt')} already made ${effects.attempts === 1 ? 'stays' : 'stay'} to be read and counted.`}
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
