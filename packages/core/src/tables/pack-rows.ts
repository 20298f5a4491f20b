/**
 * Long lists by columns, as they cross to a browser: 19,000 rows repeat sixteen names each, and ids that stand in other lists already. What repeats is
 * a place among the values of its column.
 */
export interface PackedRows {
  /** For each column its values, or places among `among`. */
  readonly columns: Record<string, unknown[]>;
  /** Of columns whose values repeat: the values. */
  readonly among: Record<string, unknown[]>;
}

/** `repeated`: the columns whose values are few, texts or null. Cost O(rows × columns). */
export function packRows<Row extends object>(rows: readonly Row[], repeated: readonly (keyof Row & string)[]): PackedRows {
  const names = Object.keys(rows[0] ?? {}) as (keyof Row & string)[];
  const among: Record<string, unknown[]> = {};
  const columns = names.map((name) => {
    if (!repeated.includes(name)) return [name, rows.map((row) => row[name] as unknown)] as const;
    const places = new Map<unknown, number>();
    const column = rows.map((row) => {
      const place = places.get(row[name]) ?? places.size;
      places.set(row[name], place);
      return place;
    });
    among[name] = [...places.keys()];
    return [name, column] as const;
  });
  return { columns: Object.fromEntries(columns), among };
}

/** What packRows was given. */
export function unpackRows<Row extends object>({ columns, among }: PackedRows): Row[] {
  const names = Object.keys(columns);
  return Array.from(columns[names[0] ?? ''] ?? [], (_, at) => {
    const row: Record<string, unknown> = {};
    for (const name of names) {
      const value = columns[name]?.[at];
      row[name] = among[name] ? among[name][value as number] : value;
    }
    return row as Row;
  });
}
