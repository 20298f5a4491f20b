import { cyclePlanSchema, staffCycleSchema, staffedSchema } from '@kindred-baton/contracts/cycles/plan';
import { getPlan } from '@kindred-baton/store/cycles/get-plan';
import { staffCycle } from '@kindred-baton/store/cycles/staff-cycle';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: cyclePlanSchema, handle: ({ ask, param }) => ask(getPlan, param('code')) });

export const POST = defineEndpoint({
  input: staffCycleSchema,
  output: staffedSchema,
  handle: ({ perform, param, body }) => perform(staffCycle, { code: param('code'), staff: body }),
});
