import type { SliceInfo } from '@kindred-baton/contracts/boards/slice';
import type { Cut, SliceView } from '@kindred-baton/core/boards/slice';
import { useChanges } from '../../client/use-changes.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { TextField } from '../../ui/field.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { ShareField } from './share-field.tsx';

interface KeepSliceDialogProps {
  readonly view: SliceView;
  readonly cut: Cut;
  /** That is named anew; null: another is kept. */
  readonly slice: SliceInfo | null;
  readonly onClose: () => void;
}

/** A name for what is looked at, and who sees it. */
export function KeepSliceDialog({ view, cut, slice, onClose }: KeepSliceDialogProps) {
  const { change } = useChanges();
  const address = useAddress();
  const notify = useNotice();
  const form = useForm(async ({ name = '', shared }) => {
    const kept = { name, isShared: shared !== undefined };
    if (slice) {
      await change('changeSlice', { params: { slice: slice.id }, input: kept });
    } else {
      const { id } = await change('keepSlice', { input: { ...kept, view, cut } });
      address.set({ slice: id }, { replace: true });
      notify({ kind: 'done', text: `“${name}” is kept: its address opens it, and boards can show it.` });
    }
    onClose();
  });
  return (
    <DialogBox title={slice ? `Slice “${slice.name}”` : 'Keep this as a slice'} isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <TextField
          label="Name"
          name="name"
          required
          maxLength={200}
          defaultValue={slice?.name ?? ''}
          hint="Such as: Field teams, errors first"
          problem={form.problemOf('name')}
        />
        <ShareField isShared={slice?.isShared ?? false} what="slice" />
        <FormFoot form={form} label="Keep it" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
