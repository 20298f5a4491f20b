import type { Place } from './place.ts';

/** A sheet, or a CSV file, as text: what both are once their cells are read. */
export interface TextTable {
  readonly sheet: string;
  /** The headings as they stand; empty where a column has none. */
  readonly headings: readonly string[];
  readonly rows: readonly TextRow[];
}

export interface TextRow {
  /** As the person sees it, from 1. */
  readonly number: number;
  readonly cells: readonly string[];
  /** How far the first filled cell is indented, by the sheet's own indent or by leading spaces. */
  readonly indent: number;
}

export function getPlace(table: TextTable, row: TextRow, column?: number): Place {
  return {
    sheet: table.sheet,
    row: row.number,
    ...(column === undefined ? {} : { column: table.headings[column] || `Column ${column + 1}` }),
  };
}

/** Small letters and digits only: `Process-Name ` and `process name` are one heading. */
export function toHeadingKey(heading: string): string {
  return heading
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();
}
