import { lazy, Suspense, useEffect, useState } from 'react';
import { isTyping } from '../../ui/is-typing.ts';

const KeysList = lazy(() => import('./keys-list.tsx'));

export interface KeyHelp {
  readonly keys: string;
  readonly does: string;
}

/** The keys of this view, by `?`; fetched when they are asked for. */
export function KeysDialog({ keys }: { readonly keys: readonly KeyHelp[] }) {
  const [isOpen, setIsOpen] = useState(false);
  useEffect(() => {
    const open = (event: KeyboardEvent) => {
      if (event.key === '?' && !isTyping(event.target)) setIsOpen(true);
    };
    addEventListener('keydown', open);
    return () => removeEventListener('keydown', open);
  }, []);
  if (!isOpen) return null;
  return (
    <Suspense fallback={null}>
      <KeysList keys={keys} onClose={() => setIsOpen(false)} />
    </Suspense>
  );
}
