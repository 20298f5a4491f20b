import { DONE, doneSchema } from '@kindred-baton/contracts/common';
import { changeScenarioSchema, scenarioDetailSchema } from '@kindred-baton/contracts/scenarios/scenario';
import { changeScenario } from '@kindred-baton/store/scenarios/change-scenarios';
import { getScenario } from '@kindred-baton/store/scenarios/get-scenario';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: scenarioDetailSchema, handle: ({ ask, param }) => ask(getScenario, param('code')) });

export const PATCH = defineEndpoint({
  input: changeScenarioSchema,
  output: doneSchema,
  handle: async ({ perform, param, body }) => {
    await perform(changeScenario, { code: param('code'), change: body });
    return DONE;
  },
});
