import { dataRowsReadSchema } from '@kindred-baton/contracts/imports/import';
import { answerDataRowFile, answerDataRows } from '../../../../../server/answers/tests/answer-data-rows.ts';
import { defineRawEndpoint } from '../../../../../server/endpoint.ts';
import { defineImportEndpoint } from '../../../../../server/import-endpoint.ts';

/** The data rows as a workbook. */
export const GET = defineRawEndpoint(answerDataRowFile);

/** Data rows read from a spreadsheet, for the draft. */
export const POST = defineImportEndpoint(dataRowsReadSchema, answerDataRows);
