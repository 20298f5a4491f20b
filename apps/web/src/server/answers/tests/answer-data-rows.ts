import { AppError } from '@kindred-baton/contracts/errors';
import { readDataRowTable } from '@kindred-baton/core/imports/data-row-table';
import type { TestEntry } from '@kindred-baton/core/imports/test-table';
import { readTables } from '@kindred-baton/formats/tables/read-tables';
import { writeXlsx } from '@kindred-baton/formats/tables/write-tables';
import { toTestTables } from '@kindred-baton/formats/tests/write-test-tables';
import { loadTestsToExport } from '@kindred-baton/store/tests/load-tests-to-export';
import type { Call } from '../../call.ts';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import type { Upload } from '../../read-upload.ts';

const MOST_ROWS = 1_000;

/** Reads data rows for one test from a spreadsheet; nothing is stored, they go into the draft. */
export async function answerDataRows({ ask, params }: Call<{ readonly code: string }>, { name, bytes }: Upload) {
  const [test] = await ask(loadTestsToExport, { codes: [params.code] });
  if (!test) throw new AppError('not found', 'There is no such test.');
  const tables = await readTables({ name, bytes });
  if (!tables.ok) return { rows: [], problems: [{ sheet: name, message: tables.message }] };
  const entry: TestEntry = {
    place: { sheet: name },
    code: test.code,
    name: test.name,
    steps: test.steps,
    rows: [],
    sentences: 0,
    byHand: 0,
  };
  const read = tables.tables.map((table) => readDataRowTable(table, [entry]));
  const rows = read.flatMap(({ rowsOf }) => rowsOf.get(entry) ?? []).map((row) => ({ ...row, values: { ...row.values } }));
  const problems = read.flatMap((each) => each.problems).map(({ sheet, row, column, message }) => ({ sheet, row, column, message }));
  if (rows.length > MOST_ROWS)
    return { rows: [], problems: [{ sheet: name, message: `The file has ${rows.length} rows; a test has at most ${MOST_ROWS}.` }] };
  if (rows.length === 0 && problems.length === 0)
    return { rows, problems: [{ sheet: name, message: 'The file has no row for this test.' }] };
  return { rows, problems };
}

/** A test's data rows as a workbook; reading it again gives the same. */
export async function answerDataRowFile({ ask, params: { code } }: Call<{ readonly code: string }>): Promise<Response> {
  const [, rows] = toTestTables(await ask(loadTestsToExport, { codes: [code] }));
  if (!rows) throw new AppError('not found', `Test ${code} has no data rows.`);
  return answerFile(await writeXlsx([rows]), { name: `${code}-data-rows.xlsx`, mediaType: MEDIA_TYPES.xlsx });
}
