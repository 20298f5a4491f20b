import type { ImportProblem } from '@kindred-baton/core/tables/place';
import type { TableRow } from './read-table.ts';

/** What a sheet's rows say, and what is wrong in them. */
export interface Part<Item> {
  readonly items: readonly Item[];
  readonly problems: readonly ImportProblem[];
}

/** Reads cells of one row and gathers what is wrong with them (mutates `problems`). */
export function createRowReader(row: TableRow, problems: ImportProblem[]) {
  const fail = (column: string, message: string) => problems.push({ ...row.place, column, message });
  return {
    fail,
    required: (column: string): string => {
      const text = row.text(column);
      if (text === '') fail(column, `${column} is empty.`);
      return text;
    },
    optional: (column: string): string | null => row.text(column) || null,
    code: (column: string): string => {
      const text = row.text(column);
      if (text === '') fail(column, `${column} is empty.`);
      else if (!/^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$/.test(text)) {
        fail(column, `“${text.slice(0, 40)}” is not a code: letters, digits, points, hyphens and underscores, at most 40.`);
      }
      return text;
    },
    yesNo: (column: string): boolean | null => {
      const text = row.text(column).toLowerCase();
      if (text === '') return null;
      if (['no', 'n', 'false', '0'].includes(text)) return false;
      if (!['yes', 'y', 'true', '1', 'x'].includes(text)) fail(column, `“${text}” should be yes or no.`);
      return true;
    },
    wholeNumber: (column: string): number | null => {
      const text = row.text(column);
      if (text === '') return null;
      if (!/^\d{1,5}$/.test(text) || Number(text) < 1 || Number(text) > 10_000) {
        fail(column, `“${text}” should be a whole number from 1 to 10000.`);
        return null;
      }
      return Number(text);
    },
  };
}
