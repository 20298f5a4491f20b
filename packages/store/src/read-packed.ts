import type { SQL, SQLWrapper } from 'drizzle-orm';
import { sql } from 'drizzle-orm';
import type { ReadContext } from './operation.ts';

export interface PackedQuery<Row> {
  /** What each row has, as JSON writes it: a moment as text, a number as a number. */
  readonly cells: { readonly [Name in keyof Row]: SQLWrapper };
  /** From where on: from, joins, where, group by, order by. */
  readonly from: SQL;
}

/**
 * Thousands of narrow rows as one JSON list for each column: what the driver and the mapper of rows do for each value costs several times as much as
 * finding them (decision 0038). For lists that are shown, select as everywhere else.
 */
export async function readPacked<Row extends object>({ db }: Pick<ReadContext, 'db'>, { cells, from }: PackedQuery<Row>): Promise<Row[]> {
  const named = Object.entries<SQLWrapper>(cells).map(([name, cell]) => ({ name: sql.identifier(name), cell }));
  const list = (parts: readonly SQL[]) => sql.join([...parts], sql`, `);
  const { rows } = await db.execute<Record<string, unknown[] | null>>(sql`
    select ${list(named.map(({ name }) => sql`json_agg(${name}) as ${name}`))}
    from (select ${list(named.map(({ name, cell }) => sql`${cell} as ${name}`))} ${from}) as packed`);
  const columns = Object.entries(rows[0] ?? {}).map(([name, values]) => ({ name, values: values ?? [] }));
  return Array.from(columns[0]?.values ?? [], (_, at) => {
    const row: Record<string, unknown> = {};
    for (const { name, values } of columns) row[name] = values[at];
    return row as Row;
  });
}
