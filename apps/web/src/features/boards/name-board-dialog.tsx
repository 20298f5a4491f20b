import type { BoardView } from '@kindred-baton/contracts/boards/board';
import { useChanges } from '../../client/use-changes.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { TextField } from '../../ui/field.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { ShareField } from './share-field.tsx';
import { toKept } from './to-kept.ts';

export function NameBoardDialog({ board, onClose }: { readonly board: BoardView; readonly onClose: () => void }) {
  const { change } = useChanges();
  const form = useForm(async ({ name = '', shared }) => {
    await change('changeBoard', { params: { board: board.id }, input: { ...toKept(board), name, isShared: shared !== undefined } });
    onClose();
  });
  return (
    <DialogBox title={`Board “${board.name}”`} isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <TextField label="Name" name="name" required maxLength={200} defaultValue={board.name} problem={form.problemOf('name')} />
        <ShareField isShared={board.isShared} what="board" />
        <FormFoot form={form} label="Keep it" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
