import type { TextRow, TextTable } from '@kindred-baton/core/imports/text-table';

export type TablesReading = { readonly ok: true; readonly tables: readonly TextTable[] } | { readonly ok: false; readonly message: string };

export interface TableFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

const isFilled = (text: string) => text.trim() !== '';

/** Splits rows into headings and what stands below them. */
export function toTextTable(sheet: string, rows: readonly TextRow[]): TextTable {
  const filled = rows.filter(({ cells }) => cells.some(isFilled));
  const at = filled.findIndex(({ cells }) => cells.filter(isFilled).length > 1);
  const head = filled[Math.max(0, at)];
  if (!head) return { sheet, headings: [], rows: [] };
  const below = filled.slice(Math.max(0, at) + 1);
  const width = below.reduce((most, { cells }) => Math.max(most, cells.length), head.cells.length);
  return { sheet, headings: Array.from({ length: width }, (_, column) => (head.cells[column] ?? '').trim()), rows: below };
}
