import { answerCycleReport } from '../../../../../server/answers/cycles/answer-cycle-report.ts';
import { defineRawEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineRawEndpoint(answerCycleReport);
