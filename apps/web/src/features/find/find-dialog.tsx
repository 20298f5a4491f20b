import { lazy, Suspense, useEffect, useState } from 'react';
import { OPEN_FIND } from './open-find.ts';

/** Fetched once the page is alive, so that it is there when somebody looks for something. */
const fetchWindow = () => import('./find-window.tsx');
const FindWindow = lazy(() => fetchWindow().then(({ FindWindow: Window }) => ({ default: Window })));
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
    const timer = setTimeout(() => void fetchWindow().catch(() => undefined), FETCH_AFTER_MS);
    return () => {
      clearTimeout(timer);
      removeEventListener(OPEN_FIND, open);
      removeEventListener('keydown', onKey);
    };
  }, []);
  if (!isOpen) return null;
  return (
    <Suspense fallback={null}>
      <FindWindow onClose={() => setIsOpen(false)} />
    </Suspense>
  );
}
