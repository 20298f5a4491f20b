import { scenarioImportPreviewSchema } from '@kindred-baton/contracts/imports/import';
import { answerScenarioImport } from '../../../../server/answers/imports/answer-scenario-import.ts';
import { defineImportEndpoint } from '../../../../server/import-endpoint.ts';

export const POST = defineImportEndpoint(scenarioImportPreviewSchema, answerScenarioImport);
