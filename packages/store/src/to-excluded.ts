import type { SQL } from 'drizzle-orm';
import { sql } from 'drizzle-orm';

/** For `on conflict do update`: each column takes the value of the row that could not be inserted. */
export function toExcluded<Column extends string>(columns: readonly Column[]): Record<Column, SQL> {
  const toName = (column: string) => column.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
  return Object.fromEntries(columns.map((column) => [column, sql.raw(`excluded.${toName(column)}`)])) as Record<Column, SQL>;
}
