import type { ImportProblem } from '@kindred-baton/core/tables/place';
import type { TableRow } from './read-table.ts';

export interface Group {
  readonly code: string;
  readonly head: TableRow;
  readonly members: readonly TableRow[];
}

/** Rows belong to the last code above them; a repeated code right below goes on, the same code further down begins again. */
export function groupByHead(rows: readonly TableRow[], column: string, problems: ImportProblem[]): Group[] {
  const groups: { code: string; head: TableRow; members: TableRow[] }[] = [];
  for (const row of rows) {
    const code = row.text(column);
    const last = groups.at(-1);
    if (last && (code === '' || code === last.code)) last.members.push(row);
    else if (code === '') problems.push({ ...row.place, column, message: `${column} is empty, and there is none above it.` });
    else groups.push({ code, head: row, members: [row] });
  }
  return groups;
}
