import { createScenarioSchema, scenarioListSchema } from '@kindred-baton/contracts/scenarios/scenario';
import { createScenario } from '@kindred-baton/store/scenarios/change-scenarios';
import { listScenarios } from '@kindred-baton/store/scenarios/list-scenarios';
import { z } from 'zod';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: scenarioListSchema, handle: ({ ask }) => ask(listScenarios, undefined) });

export const POST = defineEndpoint({
  input: createScenarioSchema,
  output: z.object({ code: z.string() }),
  handle: ({ perform, body }) => perform(createScenario, body),
});
