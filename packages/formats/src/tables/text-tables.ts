import type { TextRow, TextTable } from '@kindred-baton/core/tables/text-table';

export type TablesReading = { readonly ok: true; readonly tables: readonly TextTable[] } | { readonly ok: false; readonly message: string };

export interface TableFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

const isFilled = (text: string) => text.trim() !== '';

/** How many of the first rows may be notes above a table, and how much narrower than it they are. */
const ROWS_LOOKED_AT = 20;
const NARROW = 0.6;

/**
 * Where the headings stand: the first row with more than one filled cell; when that is much narrower than the table (notes above
 * it, or headings over groups of columns), the first row that is as wide as any.
 */
function findHeadings(rows: readonly TextRow[]): number {
  const counts = rows.slice(0, ROWS_LOOKED_AT).map(({ cells }) => cells.filter(isFilled).length);
  const first = counts.findIndex((count) => count > 1);
  const widest = Math.max(0, ...counts);
  if (first < 0) return 0;
  return (counts[first] ?? 0) <= widest * NARROW ? counts.indexOf(widest) : first;
}

/** Splits rows into headings and what stands below them. */
export function toTextTable(sheet: string, rows: readonly TextRow[]): TextTable {
  const filled = rows.filter(({ cells }) => cells.some(isFilled));
  const at = findHeadings(filled);
  const head = filled[at];
  if (!head) return { sheet, headings: [], rows: [] };
  const below = filled.slice(at + 1);
  const width = below.reduce((most, { cells }) => Math.max(most, cells.length), head.cells.length);
  return { sheet, headings: Array.from({ length: width }, (_, column) => (head.cells[column] ?? '').trim()), rows: below };
}
