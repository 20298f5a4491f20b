import { answerMapExport } from '../../../../server/answers/map/answer-map-export.ts';
import { defineRawEndpoint } from '../../../../server/endpoint.ts';

/** The map, or the branch of `scope`, as XLSX, CSV, JSON or BPMN. */
export const GET = defineRawEndpoint(answerMapExport);
