import { toHeadingKey } from './text-table.ts';

/** A thing that a column may say, and the headings that usually say it (common practice, no source). */
export interface ColumnKind<Field extends string> {
  readonly field: Field;
  readonly label: string;
  readonly says: RegExp;
}

/** Which column says what, by 0-based place; a field that no column says is absent. */
export type ColumnMap<Field extends string> = Partial<Record<Field, number>>;

/**
 * Guesses the columns from their headings: each field takes the first heading that fits and that no field before it took.
 * Cost O(fields × headings).
 */
export function guessColumns<Field extends string>(headings: readonly string[], kinds: readonly ColumnKind<Field>[]): ColumnMap<Field> {
  const keys = headings.map(toHeadingKey);
  const taken = new Set<number>();
  const map: ColumnMap<Field> = {};
  for (const { field, says } of kinds) {
    const at = keys.findIndex((key, index) => key !== '' && !taken.has(index) && says.test(key));
    if (at < 0) continue;
    taken.add(at);
    map[field] = at;
  }
  return map;
}
