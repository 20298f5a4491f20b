import { AppError } from '@kindred-baton/contracts/errors';
import { writeXlsx } from '@kindred-baton/formats/tables/write-tables';
import { toTestTables } from '@kindred-baton/formats/tests/write-test-tables';
import { loadTestsToExport } from '@kindred-baton/store/tests/load-tests-to-export';
import type { Call } from '../../call.ts';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import { doAside } from '../../aside/do-aside.ts';
import type { Upload } from '../../read-upload.ts';

/** Reads data rows for one test from a spreadsheet; nothing is stored, they go into the draft. */
export async function answerDataRows({ ask, params }: Call<{ readonly code: string }>, { name, bytes }: Upload) {
  const [test] = await ask(loadTestsToExport, { codes: [params.code] });
  if (!test) throw new AppError('not found', 'There is no such test.');
  return doAside('data rows', { name, bytes }, { code: test.code, name: test.name, steps: test.steps });
}

/** A test's data rows as a workbook; reading it again gives the same. */
export async function answerDataRowFile({ ask, params: { code } }: Call<{ readonly code: string }>): Promise<Response> {
  const [, rows] = toTestTables(await ask(loadTestsToExport, { codes: [code] }));
  if (!rows) throw new AppError('not found', `Test ${code} has no data rows.`);
  return answerFile(await writeXlsx([rows]), { name: `${code}-data-rows.xlsx`, mediaType: MEDIA_TYPES.xlsx });
}
