import { leaveTo } from '../../../client/leave-to.ts';
import { fromForm } from '../../../client/call.ts';
import { useChanges } from '../../../client/use-changes.ts';
import { DialogBox } from '../../../ui/dialog.tsx';
import { TextField } from '../../../ui/field.tsx';
import { FormFoot, useForm } from '../../../ui/use-form.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { NodeField } from '../../map/node-field.tsx';

export function NewTestDialog({ isOpen, onClose }: { readonly isOpen: boolean; readonly onClose: () => void }) {
  const { base } = useProgramme();
  const { change } = useChanges();
  const form = useForm(async (values) => {
    const { code } = await change('createTest', { input: fromForm({ ...values, teamId: null, applicationId: null }) });
    leaveTo(`${base}/tests/${code}`);
  });
  return (
    <DialogBox title="New test" isOpen={isOpen} onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <TextField
          label="Name"
          name="name"
          required
          maxLength={200}
          hint="One business transaction, such as: Price the quote"
          problem={form.problemOf('name')}
        />
        <TextField label="Code" name="code" maxLength={40} hint="Left empty: the next free one" problem={form.problemOf('code')} />
        <NodeField label="Activity" name="node" problem={form.problemOf('node')} />
        <p className="hint mb-3">Team and application are those of the activity.</p>
        <FormFoot form={form} label="Write its steps" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
