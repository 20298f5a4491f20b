import { DONE, doneSchema } from '@kindred-baton/contracts/common';
import { changeCycleSchema, cycleDetailSchema } from '@kindred-baton/contracts/cycles/cycle';
import { changeCycle } from '@kindred-baton/store/cycles/change-cycles';
import { getCycle } from '@kindred-baton/store/cycles/get-cycle';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: cycleDetailSchema, handle: ({ ask, param }) => ask(getCycle, param('code')) });

export const PATCH = defineEndpoint({
  input: changeCycleSchema,
  output: doneSchema,
  handle: async ({ perform, param, body }) => {
    await perform(changeCycle, { code: param('code'), change: body });
    return DONE;
  },
});
