import type { ReactNode } from 'react';
import { createContext, useContext, useMemo, useState } from 'react';

interface Lit {
  /** Codes of the places on the strip that stand out for the moment. */
  readonly codes: ReadonlySet<string>;
  readonly light: (codes: readonly string[]) => void;
}

const NONE: ReadonlySet<string> = new Set();
const LitContext = createContext<Lit>({ codes: NONE, light: () => {} });

/** Lets a view light places on the strip: the way of a scenario, what a change reaches. */
export function LitProvider({ children }: { readonly children: ReactNode }) {
  const [codes, setCodes] = useState(NONE);
  const value = useMemo(() => ({ codes, light: (next: readonly string[]) => setCodes(next.length === 0 ? NONE : new Set(next)) }), [codes]);
  return <LitContext value={value}>{children}</LitContext>;
}

export const useLit = () => useContext(LitContext);
