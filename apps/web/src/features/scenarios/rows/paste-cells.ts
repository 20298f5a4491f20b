import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import type { RowDocument } from '@kindred-baton/core/scenarios/scenario-document';

interface Paste {
  readonly rows: readonly RowDocument[];
  readonly columns: readonly string[];
  readonly text: string;
  /** Where the block's first cell goes; column −1 is the row's name. */
  readonly row: number;
  readonly column: number;
  readonly createId: () => string;
}

/** The edits that put a block of a spreadsheet into the cells from here on; rows that are missing are added. Null for one cell of text. */
export function pasteCells({ rows, columns, text, row, column, createId }: Paste): ScenarioEdit[] | null {
  const block = text
    .replace(/\r/g, '')
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => line.split('\t').map((cell) => cell.trim()));
  if (block.length === 1 && block[0]?.length === 1) return null;
  return block.map((cells, down): ScenarioEdit => {
    const values: Record<string, string> = {};
    let name: string | undefined;
    cells.forEach((cell, right) => {
      const place = column + right;
      if (place === -1) name = cell === '' ? undefined : cell;
      else if (columns[place] !== undefined) values[columns[place]] = cell;
    });
    const target = rows[row + down];
    if (target) return { kind: 'change row', row: target.id, values, ...(name === undefined || name === target.name ? {} : { name }) };
    return { kind: 'add row', row: { id: createId(), name: name ?? `Row ${row + down + 1}`, values }, before: null };
  });
}
