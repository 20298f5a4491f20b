import { Dialog, Modal, ModalOverlay } from 'react-aria-components';
import { FindBox } from './find-box.tsx';

/** The field and its list over the page; closed by Esc or a press beside it. */
export function FindWindow({ onClose }: { readonly onClose: () => void }) {
  return (
    <ModalOverlay
      isOpen
      onOpenChange={(isOpen) => !isOpen && onClose()}
      isDismissable
      className="fixed inset-0 z-40 flex items-start justify-center bg-[rgb(23_40_47/0.45)] p-4 pt-[10vh]"
    >
      <Modal className="floats card w-full max-w-[620px] overflow-hidden shadow-float outline-none">
        <Dialog aria-label="Find" className="outline-none">
          <FindBox />
        </Dialog>
      </Modal>
    </ModalOverlay>
  );
}
