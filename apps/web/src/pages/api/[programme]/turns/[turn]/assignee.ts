import { DONE, doneSchema, idSchema } from '@kindred-baton/contracts/common';
import { assignTurnSchema } from '@kindred-baton/contracts/turns/turn';
import { assignTurn } from '@kindred-baton/store/turns/assign-turn';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const PUT = defineEndpoint({
  input: assignTurnSchema,
  output: doneSchema,
  handle: async ({ perform, param, body }) => {
    await perform(assignTurn, { turnId: idSchema<'turn'>().parse(param('turn')), ...body });
    return DONE;
  },
});
