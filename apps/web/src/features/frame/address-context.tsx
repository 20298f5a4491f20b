import type { ReactNode } from 'react';
import { createContext, useCallback, useContext, useEffect, useMemo, useState } from 'react';

export interface Address {
  readonly path: string;
  readonly get: (name: string) => string | null;
  readonly params: URLSearchParams;
  /** Changes parameters (null removes one) and remembers the step, so that Back works. */
  readonly set: (changes: Readonly<Record<string, string | null>>, options?: { readonly replace?: boolean }) => void;
  /** The address with those changes. */
  readonly with: (changes: Readonly<Record<string, string | null>>) => string;
  /** A link to another place that keeps the scope. */
  readonly withScope: (path: string) => string;
}

const AddressContext = createContext<Address | null>(null);

/** The address is the state: every view can be restored from it and sent to others. */
export function AddressProvider({ address, children }: { readonly address: string; readonly children: ReactNode }) {
  const [current, setCurrent] = useState(address);
  useEffect(() => {
    const follow = () => setCurrent(location.pathname + location.search);
    addEventListener('popstate', follow);
    return () => removeEventListener('popstate', follow);
  }, []);
  const set = useCallback<Address['set']>((changes, options) => {
    const next = change(location.pathname + location.search, changes);
    if (next === location.pathname + location.search) return;
    history[options?.replace ? 'replaceState' : 'pushState'](null, '', next);
    setCurrent(next);
  }, []);
  const value = useMemo(() => toAddress(current, set), [current, set]);
  return <AddressContext value={value}>{children}</AddressContext>;
}

/**
 * A view that stands inside another page, such as a tile of a board: it reads an address of its own, and what would change it opens the view itself.
 */
export function FixedAddress({ address, children }: { readonly address: string; readonly children: ReactNode }) {
  const value = useMemo(() => toAddress(address, (changes) => location.assign(change(address, changes))), [address]);
  return <AddressContext value={value}>{children}</AddressContext>;
}

function toAddress(current: string, set: Address['set']): Address {
  const [path = '', search = ''] = current.split('?');
  const params = new URLSearchParams(search);
  const scope = params.get('scope');
  const withScope = (to: string) => (scope === null ? to : `${to}${to.includes('?') ? '&' : '?'}scope=${encodeURIComponent(scope)}`);
  return { path, set, params, withScope, with: (changes) => change(current, changes), get: (name) => params.get(name) };
}

function change(address: string, changes: Readonly<Record<string, string | null>>): string {
  const [path = '', search] = address.split('?');
  const params = new URLSearchParams(search);
  for (const [name, value] of Object.entries(changes)) {
    if (value === null) params.delete(name);
    else params.set(name, value);
  }
  return params.size > 0 ? `${path}?${params}` : path;
}

export function useAddress(): Address {
  const address = useContext(AddressContext);
  if (!address) throw new Error('Outside the frame.');
  return address;
}
