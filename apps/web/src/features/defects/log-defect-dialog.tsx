import { isLive } from '@kindred-baton/core/cycles/cycle';
import { useState } from 'react';
import type { Given } from '../../client/call.ts';
import { fromForm } from '../../client/call.ts';
import { leaveTo } from '../../client/leave-to.ts';
import { useChanges } from '../../client/use-changes.ts';
import { useRead } from '../../client/use-read.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { SelectField, TextArea, TextField } from '../../ui/field.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { NodeField } from '../map/node-field.tsx';
import { DefectPicks } from './defect-picks.tsx';

/** A defect that somebody saw at no turn: where on the map, and in which cycle it counts. */
export function LogDefectDialog({ isOpen, onClose }: { readonly isOpen: boolean; readonly onClose: () => void }) {
  const { base } = useProgramme();
  const { change } = useChanges();
  const { data } = useRead('listCycles', {}, { enabled: isOpen });
  const [id] = useState(() => crypto.randomUUID());
  const cycles = data?.cycles.filter(({ state }) => isLive(state)) ?? [];
  const form = useForm(async (values) => {
    const { code } = await change('logDefectApart', { input: fromForm<Given<'logDefectApart'>['input']>({ ...values, id }) });
    leaveTo(`${base}/defects/${code}`);
  });
  return (
    <DialogBox title="A defect that was seen at no turn" isOpen={isOpen} onClose={onClose}>
      {data && cycles.length === 0 ? (
        <p>A defect counts in a cycle, and none is open.</p>
      ) : (
        <form onSubmit={form.onSubmit}>
          <TextField label="In a few words" name="title" required maxLength={200} problem={form.problemOf('title')} />
          <TextArea label="Seen" name="seen" rows={2} required problem={form.problemOf('seen')} />
          <TextArea label="Expected" name="expected" rows={2} problem={form.problemOf('expected')} />
          <div className="grid grid-cols-2 gap-2">
            <NodeField label="Where" name="node" problem={form.problemOf('node')} />
            <SelectField label="Cycle" name="cycle" problem={form.problemOf('cycle')}>
              {cycles.map(({ code, name }) => (
                <option key={code} value={code}>
                  {name}
                </option>
              ))}
            </SelectField>
          </div>
          <DefectPicks />
          <p className="hint mb-3">
            It holds up no turn. What fails a test is logged in its guide, where its steps and values come with it.
          </p>
          <FormFoot form={form} label="Log it" onCancel={onClose} />
        </form>
      )}
    </DialogBox>
  );
}
