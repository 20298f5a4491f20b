import { createCycleSchema, cycleListSchema } from '@kindred-baton/contracts/cycles/cycle';
import { createCycle } from '@kindred-baton/store/cycles/change-cycles';
import { listCycles } from '@kindred-baton/store/cycles/list-cycles';
import { z } from 'zod';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: cycleListSchema, handle: ({ ask }) => ask(listCycles, undefined) });

export const POST = defineEndpoint({
  input: createCycleSchema,
  output: z.object({ code: z.string() }),
  handle: ({ perform, body }) => perform(createCycle, body),
});
