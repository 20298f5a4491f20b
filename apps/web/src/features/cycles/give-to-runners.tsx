import { useState } from 'react';
import { useChanges } from '../../client/use-changes.ts';
import { useRead } from '../../client/use-read.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { SelectField } from '../../ui/field.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { sayStaffed } from './lanes/say-staffed.ts';

/** Gives the turns of a cycle to a pool: those whose tests are done by runners, or all that no step keeps with people. */
export function GiveToRunners({ code, state }: { readonly code: string; readonly state: string }) {
  const { can } = useProgramme();
  const { data } = useRead('listPools', {}, { enabled: can('run cycles') });
  const { change } = useChanges();
  const notify = useNotice();
  const [isAsked, setIsAsked] = useState(false);
  const form = useForm(async ({ poolId = '', which }) => {
    const input = {
      kind: 'to runners' as const,
      poolId: poolId as never,
      which: which === 'all' ? ('all' as const) : ('done by runners' as const),
    };
    notify({ kind: 'done', text: sayStaffed(await change('staffCycle', { params: { code }, input })) });
    setIsAsked(false);
  });
  if (!can('run cycles') || state === 'closed' || !data || data.pools.length === 0) return null;
  return (
    <>
      <button type="button" className="button" onClick={() => setIsAsked(true)}>
        Give to runners …
      </button>
      <DialogBox title="Give turns to runners" isOpen={isAsked} onClose={() => setIsAsked(false)}>
        <form onSubmit={form.onSubmit}>
          <SelectField label="Pool" name="poolId" required problem={form.problemOf('poolId')}>
            {data.pools.map(({ id, name, sessions }) => (
              <option key={id} value={id}>
                {name} ({sessions === 0 ? 'no runner is at work now' : `${sessions} ${sessions === 1 ? 'session' : 'sessions'} at work`})
              </option>
            ))}
          </SelectField>
          <SelectField label="Which turns" name="which" hint="Whoever has them now has them no more. What is under way stays.">
            <option value="done by runners">Those whose test is done by runners</option>
            <option value="all">All whose steps a runner can do</option>
          </SelectField>
          <FormFoot form={form} label="Give them" onCancel={() => setIsAsked(false)} />
        </form>
      </DialogBox>
    </>
  );
}
