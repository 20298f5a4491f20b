import type { NodeDetail } from '@kindred-baton/contracts/map/node';
import type { Choices } from '@kindred-baton/contracts/programmes/programme';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { DialogBox } from '../../ui/dialog.tsx';
import { SelectField, TextArea, TextField } from '../../ui/field.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { getJson, sendJson } from '../../ui/request.ts';
import { useProgramme } from '../frame/programme-context.tsx';

interface EditNodeDialogProps {
  readonly node: NodeDetail;
  readonly isOpen: boolean;
  readonly onClose: () => void;
}

export function EditNodeDialog({ node, isOpen, onClose }: EditNodeDialogProps) {
  const { api } = useProgramme();
  const client = useQueryClient();
  const { data: choices } = useQuery({ queryKey: ['choices'], queryFn: () => getJson<Choices>(`${api}/choices`), enabled: isOpen });
  const form = useForm(async (values) => {
    await sendJson('PATCH', `${api}/map/${node.code}`, {
      ...{ name: values['name'], description: values['description'], isCritical: values['isCritical'] === 'on' },
      ...{ teamId: values['teamId'] || null, applicationId: values['applicationId'] || null, ownerId: values['ownerId'] || null },
    });
    await client.invalidateQueries({ queryKey: ['map'] });
    onClose();
  });
  const picks = [
    { label: 'Team', name: 'teamId', chosen: node.team?.id, from: choices?.teams },
    { label: 'Application', name: 'applicationId', chosen: node.application?.id, from: choices?.applications },
    { label: 'Owner', name: 'ownerId', chosen: node.owner?.id, from: choices?.people },
  ];
  return (
    <DialogBox title={`Edit ${node.code}`} isOpen={isOpen} onClose={onClose}>
      {choices ? (
        <form onSubmit={form.onSubmit}>
          <TextField label="Name" name="name" required maxLength={200} defaultValue={node.name} problem={form.problemOf('name')} />
          {picks.map(({ label, name, chosen, from }) => (
            <SelectField key={name} label={label} name={name} defaultValue={chosen ?? ''} problem={form.problemOf(name)}>
              <option value="">None</option>
              {(from ?? []).map((choice) => (
                <option key={choice.id} value={choice.id}>
                  {choice.name}
                </option>
              ))}
            </SelectField>
          ))}
          <TextArea label="Description" name="description" defaultValue={node.description} problem={form.problemOf('description')} />
          <label className="mb-3 flex items-center gap-2">
            <input type="checkbox" name="isCritical" defaultChecked={node.isCritical} /> Critical for the business
          </label>
          <FormFoot form={form} label="Save" onCancel={onClose} />
        </form>
      ) : (
        <p className="text-soft">Loading …</p>
      )}
    </DialogBox>
  );
}
