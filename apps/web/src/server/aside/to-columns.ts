import type { ImportColumns } from '@kindred-baton/contracts/imports/import';
import type { TextTable } from '@kindred-baton/core/tables/text-table';

const SAMPLES = 4;
const SAMPLE_CHARACTERS = 80;

/** A sheet’s columns with some rows, to map by hand. */
export function toColumns({ sheet, headings, rows }: TextTable, sheets: readonly string[]): ImportColumns {
  const samples = rows.slice(0, SAMPLES).map(({ cells }) => headings.map((_, column) => (cells[column] ?? '').slice(0, SAMPLE_CHARACTERS)));
  return { sheet, sheets: [...sheets], headings: [...headings], samples, rows: rows.length };
}
