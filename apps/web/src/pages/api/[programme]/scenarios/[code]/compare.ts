import { compareQuerySchema, comparisonSchema } from '@kindred-baton/contracts/scenarios/reuse';
import { compareScenario } from '@kindred-baton/store/scenarios/compare-scenario';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({
  input: compareQuerySchema,
  output: comparisonSchema,
  handle: ({ ask, param, body }) => ask(compareScenario, { code: param('code'), ...body }),
});
