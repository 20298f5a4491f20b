import type { ReactNode } from 'react';
import { lazy, Suspense } from 'react';

export interface DialogProps {
  readonly title: string;
  readonly onClose: () => void;
  readonly children: ReactNode;
  readonly width?: number;
}

/** Fetched when the first dialog opens, or with Find's window, whichever comes first. */
const DialogWindow = lazy(() => import('./dialog-window.tsx').then(({ DialogWindow: Window }) => ({ default: Window })));

/** A dialog that keeps the focus, closes by Esc, and gives the focus back. */
export function DialogBox({ isOpen, ...props }: DialogProps & { readonly isOpen: boolean }) {
  if (!isOpen) return null;
  return (
    <Suspense fallback={null}>
      <DialogWindow {...props} />
    </Suspense>
  );
}
