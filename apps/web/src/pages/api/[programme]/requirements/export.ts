import { answerRequirementExport } from '../../../../server/answers/requirements/answer-requirement-export.ts';
import { defineRawEndpoint } from '../../../../server/endpoint.ts';

/** The requirements as XLSX, CSV or ReqIF. */
export const GET = defineRawEndpoint(answerRequirementExport);
