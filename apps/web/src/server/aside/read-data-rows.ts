import { readDataRowTable } from '@kindred-baton/core/imports/data-row-table';
import type { TestEntry } from '@kindred-baton/core/imports/test-table';
import type { Step } from '@kindred-baton/core/tests/step';
import type { TableFile } from '@kindred-baton/formats/tables/text-tables';
import { readTables } from '@kindred-baton/formats/tables/read-tables';

const MOST_ROWS = 1_000;

interface RowsFor {
  readonly code: string;
  readonly name: string;
  readonly steps: readonly Step[];
}

/** The data rows that a spreadsheet has for one test. */
export async function readDataRows(file: TableFile, test: RowsFor) {
  const tables = await readTables(file);
  if (!tables.ok) return { rows: [], problems: [{ sheet: file.name, message: tables.message }] };
  const entry: TestEntry = { place: { sheet: file.name }, ...test, rows: [], sentences: 0, byHand: 0 };
  const read = tables.tables.map((table) => readDataRowTable(table, [entry]));
  const rows = read.flatMap(({ rowsOf }) => rowsOf.get(entry) ?? []).map((row) => ({ ...row, values: { ...row.values } }));
  const problems = read.flatMap((each) => each.problems).map(({ sheet, row, column, message }) => ({ sheet, row, column, message }));
  if (rows.length > MOST_ROWS)
    return { rows: [], problems: [{ sheet: file.name, message: `The file has ${rows.length} rows; a test has at most ${MOST_ROWS}.` }] };
  if (rows.length === 0 && problems.length === 0)
    return { rows, problems: [{ sheet: file.name, message: 'The file has no row for this test.' }] };
  return { rows, problems };
}
