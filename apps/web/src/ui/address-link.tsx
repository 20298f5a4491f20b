import type { MouseEvent, ReactNode } from 'react';
import { useAddress } from '../features/frame/address-context.tsx';

interface AddressLinkProps {
  readonly changes: Readonly<Record<string, string | null>>;
  readonly className?: string;
  readonly label?: string;
  readonly children: ReactNode;
}

/** The same view with other parameters: a link like any other, which does not load the page anew. */
export function AddressLink({ changes, className, label, children }: AddressLinkProps) {
  const address = useAddress();
  const follow = (event: MouseEvent) => {
    if (event.ctrlKey || event.metaKey || event.shiftKey || event.button !== 0) return;
    event.preventDefault();
    address.set(changes);
  };
  return (
    <a className={className} href={address.with(changes)} aria-label={label} onClick={follow}>
      {children}
    </a>
  );
}
