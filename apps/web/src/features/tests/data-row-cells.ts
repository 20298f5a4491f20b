import type { SaveTest } from '@kindred-baton/contracts/tests/test';
import { toNameKey } from '@kindred-baton/core/values/field';

type Rows = SaveTest['rows'];

/** The inputs that rows give values for: the test's needs, then what only rows name. */
export function listColumns(needs: SaveTest['needs'], rows: Rows): string[] {
  const columns = new Map(needs.map(({ name }) => [toNameKey(name), name]));
  for (const { values } of rows)
    for (const name of Object.keys(values)) if (!columns.has(toNameKey(name))) columns.set(toNameKey(name), name);
  return [...columns.values()];
}

/** A copy with a name of its own; what differs is then changed. */
export function copyRow(row: Rows[number], rows: Rows): Rows[number] {
  const taken = new Set(rows.map(({ name }) => toNameKey(name)));
  const stem = row.name.replace(/ \d+$/, '');
  let number = 2;
  while (taken.has(toNameKey(`${stem} ${number}`))) number += 1;
  return { ...row, name: `${stem} ${number}`, values: { ...row.values } };
}

interface Paste {
  readonly rows: Rows;
  readonly columns: readonly string[];
  readonly text: string;
  /** Where the block's first cell goes; column −2 is the name, −1 the persona. */
  readonly row: number;
  readonly column: number;
}

/** A block of a spreadsheet goes into the cells from here on; rows that are missing are added. Null when it is one cell of text. */
export function pasteRows({ rows, columns, text, row, column }: Paste): Rows | null {
  const block = text
    .replace(/\r/g, '')
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => line.split('\t'));
  if (block.length === 1 && block[0]?.length === 1) return null;
  const next: Rows = rows.map((each) => ({ ...each, values: { ...each.values } }));
  block.forEach((cells, down) => {
    const at = row + down;
    const target = (next[at] ??= { name: `Row ${at + 1}`, values: {} });
    cells.forEach((cell, right) => {
      const place = column + right;
      if (place === -2) target.name = cell.trim() || target.name;
      else if (place === -1) target.as = cell.trim() || undefined;
      else if (columns[place] !== undefined) target.values[columns[place]] = cell.trim();
    });
  });
  return next;
}
