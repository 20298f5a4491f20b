import type { importRoutes } from '@kindred-baton/contracts/imports/routes';
import { writeTemplate } from '@kindred-baton/formats/import/write-template';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import type { Answers } from '../../call.ts';
import { readUpload } from '../../read-upload.ts';
import { answerWorkbookImport } from './answer-workbook-import.ts';

export const importAnswers: Answers<typeof importRoutes> = {
  importWorkbook: async (call) => answerWorkbookImport(call, await readUpload(call.request)),
  getWorkbookTemplate: async () => answerFile(await writeTemplate(), { name: 'kindred-baton-import.xlsx', mediaType: MEDIA_TYPES.xlsx }),
};
