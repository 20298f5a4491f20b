import { answerDefectExport } from '../../../../server/answers/defects/answer-defect-export.ts';
import { defineRawEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineRawEndpoint(answerDefectExport);
