import { createExample } from '@kindred-baton/core/values/create-example';
import type { Given } from '../../../client/call.ts';
import { fromForm } from '../../../client/call.ts';
import { useChanges } from '../../../client/use-changes.ts';
import { useRead } from '../../../client/use-read.ts';
import { DialogBox } from '../../../ui/dialog.tsx';
import { SelectField, TextField } from '../../../ui/field.tsx';
import { FormFoot, useForm } from '../../../ui/use-form.tsx';
import type { TestDraft } from '../test-draft.ts';

interface AskTrialDialogProps {
  readonly testId: string;
  readonly draft: TestDraft;
  readonly onClose: () => void;
  readonly onAsked: (trial: string) => void;
}

/** Where, as whom and with which values the steps are tried. */
export default function AskTrialDialog({ testId, draft, onClose, onAsked }: AskTrialDialogProps) {
  const { change } = useChanges();
  const choices = useRead('getChoices', {}).data;
  const personas = useRead('listPersonas', {}).data?.personas ?? [];
  const [row] = draft.rows;
  const usual = personas.find(({ name }) => name === row?.as)?.id ?? '';
  const form = useForm(async ({ environmentId, personaId, ...values }) => {
    const id = crypto.randomUUID();
    const steps = draft.steps.filter(({ target }) => target.trim() !== '');
    const given = Object.fromEntries(
      draft.needs.flatMap(({ name }, index) => (values[`value ${index}`] ? [[name, values[`value ${index}`]]] : [])),
    );
    const input = { id, testId, environmentId, personaId: personaId === '' ? null : personaId, steps, gives: draft.gives, values: given };
    await change('askTrial', { input: fromForm<Given<'askTrial'>['input']>(input) });
    onAsked(id);
  });
  if (!choices) return null;
  return (
    <DialogBox title="Let a runner try it" isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <p className="mb-3 text-soft">
          The steps as they stand here, saved or not. What comes of it is shown beside them and counted nowhere.
        </p>
        <div className="grid gap-x-4 sm:grid-cols-2">
          <SelectField label="Environment" name="environmentId" required problem={form.problemOf('environmentId')}>
            {choices.environments.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </SelectField>
          <SelectField key={usual} label="As" name="personaId" defaultValue={usual} problem={form.problemOf('personaId')}>
            <option value="">Whoever is the usual one</option>
            {personas.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </SelectField>
        </div>
        {draft.needs.map((field, index) => (
          <TextField
            key={field.name}
            label={field.name}
            name={`value ${index}`}
            defaultValue={row?.values[field.name] ?? createExample(field)}
            hint={row?.values[field.name] === undefined ? 'An example; another may be needed there' : `As in the data row ${row.name}`}
          />
        ))}
        <FormFoot form={form} label="Try it" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
