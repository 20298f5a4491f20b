import type { MapNode } from '@kindred-baton/contracts/map/node';
import { useQueryClient } from '@tanstack/react-query';
import { DialogBox } from '../../ui/dialog.tsx';
import { TextField } from '../../ui/field.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { sendJson } from '../../ui/request.ts';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { proposeCode } from './propose-code.ts';

interface AddNodeDialogProps {
  readonly isOpen: boolean;
  readonly onClose: () => void;
  readonly parent: MapNode | null;
  readonly level: string;
  readonly nodes: readonly MapNode[];
}

export function AddNodeDialog({ isOpen, onClose, parent, level, nodes }: AddNodeDialogProps) {
  const { api } = useProgramme();
  const address = useAddress();
  const client = useQueryClient();
  const form = useForm(async (values) => {
    const { code } = await sendJson<{ code: string }>('POST', `${api}/map`, {
      parent: parent?.code ?? null,
      code: values['code'],
      name: values['name'],
    });
    await client.invalidateQueries({ queryKey: ['map'] });
    await client.invalidateQueries({ queryKey: ['strip'] });
    address.set({ node: code });
    onClose();
  });
  const siblings = nodes.filter((node) => node.parentId === (parent?.id ?? null)).map((node) => node.code);
  return (
    <DialogBox title={parent ? `Add a ${level} below ${parent.name}` : `Add a ${level}`} isOpen={isOpen} onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <TextField label="Name" name="name" required maxLength={200} problem={form.problemOf('name')} />
        <TextField
          label="Code"
          name="code"
          required
          maxLength={40}
          defaultValue={proposeCode(parent?.code ?? null, siblings)}
          hint="Unique in the programme"
          problem={form.problemOf('code')}
        />
        <FormFoot form={form} label={`Add ${level}`} onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
