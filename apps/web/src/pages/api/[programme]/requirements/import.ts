import { requirementImportPreviewSchema } from '@kindred-baton/contracts/imports/import';
import { answerRequirementImport } from '../../../../features/imports/answer-requirement-import.ts';
import { defineImportEndpoint } from '../../../../server/import-endpoint.ts';

export const POST = defineImportEndpoint(requirementImportPreviewSchema, answerRequirementImport);
