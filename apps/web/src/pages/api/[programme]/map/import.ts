import { mapImportPreviewSchema } from '@kindred-baton/contracts/imports/import';
import { answerMapImport } from '../../../../server/answers/imports/answer-map-import.ts';
import { defineImportEndpoint } from '../../../../server/import-endpoint.ts';

export const POST = defineImportEndpoint(mapImportPreviewSchema, answerMapImport);
