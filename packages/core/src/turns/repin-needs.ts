import type { PinnedNeed, PinnedSource } from './turn.ts';
import type { Field } from '../values/field.ts';
import { toNameKey } from '../values/field.ts';

export interface RepinInput {
  /** What the newer version needs. */
  readonly needs: readonly Field[];
  /** Where the values come from now. */
  readonly pinned: readonly PinnedNeed[];
  /** The turns before this one in its run, in order, with what their versions give. */
  readonly earlier: readonly { readonly index: number; readonly gives: readonly Field[] }[];
  readonly rowValues: Readonly<Record<string, string>>;
  /** Values of the newer version's own first data row. */
  readonly ownValues: Readonly<Record<string, string>>;
}

/**
 * The sources of a turn that takes a newer version over: a need that it had keeps its source; a new one takes the nearest earlier turn
 * that gives it, else the run's data row, else the test's own row, else none. Cost O(needs × turns).
 */
export function repinNeeds({ needs, pinned, earlier, rowValues, ownValues }: RepinInput): PinnedNeed[] {
  const before = new Map(pinned.map(({ name, source }) => [toNameKey(name), source]));
  const find = (values: Readonly<Record<string, string>>, name: string) =>
    Object.entries(values).find(([key, value]) => toNameKey(key) === toNameKey(name) && value !== '')?.[1];
  const toSource = (name: string): PinnedSource => {
    const giver = [...earlier].reverse().find(({ gives }) => gives.some((field) => toNameKey(field.name) === toNameKey(name)));
    const given = giver?.gives.find((field) => toNameKey(field.name) === toNameKey(name));
    if (giver && given) return { kind: 'turn', index: giver.index, name: given.name };
    const row = find(rowValues, name);
    if (row !== undefined) return { kind: 'value', value: row, from: 'row' };
    const own = find(ownValues, name);
    return own === undefined ? { kind: 'none' } : { kind: 'value', value: own, from: 'own' };
  };
  return needs
    .map((need) => ({ need, source: before.get(toNameKey(need.name)) ?? toSource(need.name) }))
    .filter(({ need, source }) => need.required !== false || source.kind !== 'none')
    .map(({ need, source }) => ({ name: need.name, source, ...(need.required === false ? { isOptional: true as const } : {}) }));
}
