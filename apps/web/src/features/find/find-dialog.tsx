import { lazy, Suspense, useEffect, useState } from 'react';
import { Dialog, Modal, ModalOverlay } from 'react-aria-components';
import { OPEN_FIND } from './open-find.ts';

/** Fetched once the page is alive, so that it is there when somebody looks for something. */
const fetchBox = () => import('./find-box.tsx');
const FindBox = lazy(() => fetchBox().then(({ FindBox: Box }) => ({ default: Box })));
const FETCH_AFTER_MS = 1_500;

/** Finds any node, test, scenario, turn, cycle or defect, by Ctrl K. */
export function FindDialog() {
  const [isOpen, setIsOpen] = useState(false);
  useEffect(() => {
    const open = () => setIsOpen(true);
    const onKey = (event: globalThis.KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
        event.preventDefault();
        open();
      }
    };
    addEventListener(OPEN_FIND, open);
    addEventListener('keydown', onKey);
    const timer = setTimeout(() => void fetchBox(), FETCH_AFTER_MS);
    return () => {
      clearTimeout(timer);
      removeEventListener(OPEN_FIND, open);
      removeEventListener('keydown', onKey);
    };
  }, []);
  return (
    <ModalOverlay
      isOpen={isOpen}
      onOpenChange={setIsOpen}
      isDismissable
      className="fixed inset-0 z-40 flex items-start justify-center bg-[rgb(23_40_47/0.45)] p-4 pt-[10vh]"
    >
      <Modal className="floats card w-full max-w-[620px] overflow-hidden shadow-float outline-none">
        <Dialog aria-label="Find" className="outline-none">
          <Suspense fallback={<p className="px-4 py-3 text-soft">One moment …</p>}>
            <FindBox />
          </Suspense>
        </Dialog>
      </Modal>
    </ModalOverlay>
  );
}
