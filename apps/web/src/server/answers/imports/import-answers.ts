import type { importRoutes } from '@kindred-baton/contracts/imports/routes';
import { writeTemplate } from '@kindred-baton/formats/import/write-template';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import type { Answers } from '../../call.ts';
import { readUpload } from '../../read-upload.ts';
import { answerDataRows } from '../tests/answer-data-rows.ts';
import { answerMapImport } from './answer-map-import.ts';
import { answerRequirementImport } from './answer-requirement-import.ts';
import { answerScenarioImport } from './answer-scenario-import.ts';
import { answerTestImport } from './answer-test-import.ts';
import { answerWorkbookImport } from './answer-workbook-import.ts';

export const importAnswers: Answers<typeof importRoutes> = {
  importWorkbook: async (call) => answerWorkbookImport(call, await readUpload(call.request)),
  getWorkbookTemplate: async () => answerFile(await writeTemplate(), { name: 'kindred-baton-import.xlsx', mediaType: MEDIA_TYPES.xlsx }),
  importMap: async (call) => answerMapImport(call, await readUpload(call.request)),
  importRequirements: async (call) => answerRequirementImport(call, await readUpload(call.request)),
  readDataRows: async (call) => answerDataRows(call, await readUpload(call.request)),
  importTests: async (call) => answerTestImport(call, await readUpload(call.request)),
  importScenarios: async (call) => answerScenarioImport(call, await readUpload(call.request)),
};
