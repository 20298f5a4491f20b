import type { Field } from '../values/field.ts';
import { isCompatible, toNameKey } from '../values/field.ts';
import { pushTo } from '../push-to.ts';

/** A test as the chain finder sees it. */
export interface ChainTest {
  readonly code: string;
  readonly name: string;
  readonly minutes: number;
  /** The stream of the map that it belongs to, by name. */
  readonly stream?: string;
  readonly needs: readonly Field[];
  readonly gives: readonly Field[];
  /** Values that its own data row has. */
  readonly ownValues: Readonly<Record<string, string>>;
}

interface Giver {
  readonly test: number;
  readonly field: Field;
}

/** Who gives what, by name; for a whole library at once. */
export interface ChainLibrary {
  readonly tests: readonly ChainTest[];
  readonly byCode: ReadonlyMap<string, number>;
  readonly giversOf: ReadonlyMap<string, readonly Giver[]>;
  /** toNameKey, remembered: a library has few names and many fields. */
  readonly toKey: (name: string) => string;
}

/** Cost O(outputs). */
export function createChainLibrary(tests: readonly ChainTest[]): ChainLibrary {
  const giversOf = new Map<string, Giver[]>();
  const keys = new Map<string, string>();
  const toKey = (name: string) => {
    const known = keys.get(name);
    if (known !== undefined) return known;
    const key = toNameKey(name);
    keys.set(name, key);
    return key;
  };
  tests.forEach(({ gives }, test) => {
    for (const field of gives) pushTo(giversOf, toKey(field.name), { test, field });
  });
  return { tests, byCode: new Map(tests.map(({ code }, index) => [code, index])), giversOf, toKey };
}

/** The tests that give a value of this name in a type that can be taken, as indexes. */
export function findGivers({ giversOf, toKey }: ChainLibrary, need: Field): number[] {
  const givers = (giversOf.get(toKey(need.name)) ?? []).filter(({ field }) => isCompatible(field, need));
  return [...new Set(givers.map(({ test }) => test))];
}

/** The same need of several tests is looked up once. */
export function toNeedKey({ toKey }: ChainLibrary, { name, type, choices }: Field): string {
  return choices ? `${toKey(name)}\u0001${type}\u0001${choices.join('\u0002')}` : `${toKey(name)}\u0001${type}`;
}
