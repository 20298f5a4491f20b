import { testImportPreviewSchema } from '@kindred-baton/contracts/imports/import';
import { answerTestImport } from '../../../../server/answers/imports/answer-test-import.ts';
import { defineImportEndpoint } from '../../../../server/import-endpoint.ts';

export const POST = defineImportEndpoint(testImportPreviewSchema, answerTestImport);
