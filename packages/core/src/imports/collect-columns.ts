import type { Field } from '../values/field.ts';
import { guessFieldType, toNameKey } from '../values/field.ts';

/** The columns of a scenario's data rows, in order of appearance, with the types that the file gives or the names suggest. */
export function collectColumns(rows: readonly { readonly values: Readonly<Record<string, string>> }[], typed: readonly Field[]): Field[] {
  const known = new Map(typed.map((field) => [toNameKey(field.name), field]));
  const columns = new Map<string, Field>();
  for (const row of rows) {
    for (const [name, value] of Object.entries(row.values)) {
      const key = toNameKey(name);
      if (value !== '' && !columns.has(key)) columns.set(key, { ...(known.get(key) ?? { type: guessFieldType(name) }), name });
    }
  }
  return [...columns.values()];
}
