import { answerScenarioExport } from '../../../../../server/answers/scenarios/answer-scenario-export.ts';
import { defineRawEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineRawEndpoint(answerScenarioExport);
