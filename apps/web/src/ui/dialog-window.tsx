import X from 'lucide-react/icons/x';
import { useRef } from 'react';
import { Dialog, Heading, Modal, ModalOverlay } from 'react-aria-components';
import type { DialogProps } from './dialog.tsx';

/** A dialog that keeps the focus, closes by Esc, and gives the focus back. A click beside it closes it while nothing was typed or chosen in it. */
export function DialogWindow({ title, onClose, children, width = 520 }: DialogProps) {
  const isTouched = useRef(false);
  return (
    <ModalOverlay
      isOpen
      onOpenChange={(open) => !open && onClose()}
      isDismissable
      shouldCloseOnInteractOutside={() => !isTouched.current}
      className="fixed inset-0 z-40 flex items-start justify-center overflow-y-auto bg-[rgb(23_40_47/0.45)] p-4 pt-[8vh]"
    >
      <Modal className="floats card w-full shadow-float outline-none" style={{ maxWidth: width }}>
        <Dialog className="outline-none">
          <div className="flex items-center justify-between border-b border-line-2 px-5 py-3">
            <Heading slot="title" className="text-[17px] font-bold">
              {title}
            </Heading>
            <button type="button" className="button button-quiet button-small" onClick={onClose} aria-label="Close">
              <X size={18} aria-hidden />
            </button>
          </div>
          <div className="px-5 py-4" onInput={() => (isTouched.current = true)}>
            {children}
          </div>
        </Dialog>
      </Modal>
    </ModalOverlay>
  );
}
