import type { RunnersView } from '@kindred-baton/contracts/runners/runner';
import { useChanges } from '../../client/use-changes.ts';
import { DialogBox } from '../../ui/dialog.tsx';

interface RetireDialogProps {
  readonly runner: RunnersView['runners'][number];
  readonly onClose: () => void;
}

/** A token that is withdrawn comes never back: it is asked once more. */
export function RetireDialog({ runner, onClose }: RetireDialogProps) {
  const { act } = useChanges();
  const retire = async () => {
    if (await act('retireRunner', { params: { runner: runner.id } }, `${runner.name} is retired.`)) onClose();
  };
  return (
    <DialogBox title={`Retire ${runner.name}?`} isOpen onClose={onClose}>
      <p>
        Its token works no more from now on, and what it does goes back into the queue. What it has done stays. To have the machine back,
        add a runner anew.
      </p>
      <p className="mt-4 flex justify-end gap-2">
        <button type="button" className="button" onClick={onClose}>
          Keep it
        </button>
        <button type="button" className="button button-primary" onClick={() => void retire()}>
          Retire it
        </button>
      </p>
    </DialogBox>
  );
}
