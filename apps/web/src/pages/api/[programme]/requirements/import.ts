import { requirementImportPreviewSchema } from '@kindred-baton/contracts/imports/import';
import { answerRequirementImport } from '../../../../server/answers/imports/answer-requirement-import.ts';
import { defineImportEndpoint } from '../../../../server/import-endpoint.ts';

export const POST = defineImportEndpoint(requirementImportPreviewSchema, answerRequirementImport);
