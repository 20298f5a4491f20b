import { moveCycleSchema } from '@kindred-baton/contracts/cycles/cycle';
import { moveCycle } from '@kindred-baton/store/cycles/move-cycle';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  input: moveCycleSchema,
  output: z.object({ state: moveCycleSchema.shape.to }),
  handle: ({ perform, param, body }) => perform(moveCycle, { code: param('code'), ...body }),
});
