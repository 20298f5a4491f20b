import { useRead } from '../../client/use-read.ts';
import type { NodeDetail } from '@kindred-baton/contracts/map/node';
import { DialogBox } from '../../ui/dialog.tsx';
import { SelectField, TextArea, TextField } from '../../ui/field.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useAddress } from '../frame/address-context.tsx';
import type { MapEditing } from './use-map-editing.ts';

interface EditNodeDialogProps {
  readonly node: NodeDetail;
  readonly editing: MapEditing;
  readonly onClose: () => void;
}

/** Everything that a node says of itself; one edit of the map, so that it can be undone. */
export function EditNodeDialog({ node, editing, onClose }: EditNodeDialogProps) {
  const address = useAddress();
  const { data: choices } = useRead('getChoices', {});
  const form = useForm(async (values) => {
    const text = (name: string) => values[name]?.trim() ?? '';
    const change = {
      ...{ code: text('code'), name: text('name'), description: values['description'] ?? '', documents: readDocuments(text('documents')) },
      ...{ team: text('team') || null, application: text('application') || null, owner: text('owner') || null },
      ...{ isCritical: values['isCritical'] === 'on', isRetired: values['isRetired'] === 'on' },
    };
    if (!(await editing.run([{ kind: 'change', code: node.code, change }]))) return;
    if (change.code !== node.code) address.set({ node: change.code }, { replace: true });
    onClose();
  });
  const picks = [
    { label: 'Team', name: 'team', chosen: node.team?.name, from: choices?.teams },
    { label: 'Application', name: 'application', chosen: node.application?.name, from: choices?.applications },
    { label: 'Owner', name: 'owner', chosen: node.owner?.name, from: choices?.people },
  ];
  return (
    <DialogBox title={`Edit ${node.code}`} isOpen onClose={onClose}>
      {choices ? (
        <form onSubmit={form.onSubmit}>
          <div className="grid gap-x-3 sm:grid-cols-[1fr_140px]">
            <TextField label="Name" name="name" required maxLength={200} defaultValue={node.name} />
            <TextField label="Code" name="code" required maxLength={40} defaultValue={node.code} />
          </div>
          <div className="grid gap-x-3 sm:grid-cols-3">
            {picks.map(({ label, name, chosen, from }) => (
              <SelectField key={name} label={label} name={name} defaultValue={chosen ?? ''}>
                <option value="">None</option>
                {(from ?? []).map((choice) => (
                  <option key={choice.id} value={choice.name}>
                    {choice.name}
                  </option>
                ))}
              </SelectField>
            ))}
          </div>
          <TextArea
            label="Description"
            name="description"
            rows={6}
            hint="Markdown: # heading, - list, **strong**"
            defaultValue={node.description}
          />
          <TextArea
            label="Documents"
            name="documents"
            hint="One a line: a title, then its address"
            defaultValue={node.documents.map(({ title, address: where }) => `${title} ${where}`).join('\n')}
          />
          <div className="mb-3 flex gap-6">
            <label className="flex items-center gap-2">
              <input type="checkbox" name="isCritical" defaultChecked={node.isCritical} /> Critical for the business
            </label>
            <label className="flex items-center gap-2">
              <input type="checkbox" name="isRetired" defaultChecked={node.isRetired} /> Retired
            </label>
          </div>
          <FormFoot form={form} label="Save" onCancel={onClose} />
        </form>
      ) : (
        <p className="text-soft">Loading …</p>
      )}
    </DialogBox>
  );
}

/** `Handbook https://…` a line; a line of an address alone is its own title. */
function readDocuments(text: string): { title: string; address: string }[] {
  return text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '')
    .map((line) => {
      const at = line.search(/(https?:\/\/|\/|\\\\)\S*$/);
      const title = at > 0 ? line.slice(0, at).trim() : line;
      return { title: (title || line).slice(0, 200), address: at >= 0 ? line.slice(at) : line };
    });
}
