import { importPreviewSchema } from '@kindred-baton/contracts/imports/import';
import { answerWorkbookImport } from '../../../../server/answers/imports/answer-workbook-import.ts';
import { defineImportEndpoint } from '../../../../server/import-endpoint.ts';

/** Our own workbook is looked at; with the fingerprint of what was seen it is stored. */
export const POST = defineImportEndpoint(importPreviewSchema, answerWorkbookImport);
