import { leaveTo } from '../../client/leave-to.ts';
import { fromForm } from '../../client/call.ts';
import { useChanges } from '../../client/use-changes.ts';
import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import { DialogBox } from '../../ui/dialog.tsx';
import { TextField } from '../../ui/field.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { NodeField } from '../map/node-field.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

interface NewScenarioDialogProps {
  readonly isOpen: boolean;
  readonly onClose: () => void;
  /** What it begins with. */
  readonly edits?: readonly ScenarioEdit[];
}

export function NewScenarioDialog({ isOpen, onClose, edits = [] }: NewScenarioDialogProps) {
  const { base } = useProgramme();
  const { change } = useChanges();
  const form = useForm(async (values) => {
    const { code } = await change('createScenario', { input: fromForm({ ...values, edits }) });
    leaveTo(`${base}/scenarios/${code}`);
  });
  return (
    <DialogBox title="New scenario" isOpen={isOpen} onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <TextField
          label="Name"
          name="name"
          required
          maxLength={200}
          hint="What the business would call it, such as: Household gets a metered supply"
          problem={form.problemOf('name')}
        />
        <TextField label="Code" name="code" maxLength={40} hint="Left empty: the next free one" problem={form.problemOf('code')} />
        <NodeField label="Belongs to" name="node" problem={form.problemOf('node')} />
        <FormFoot form={form} label="Begin the sketch" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
