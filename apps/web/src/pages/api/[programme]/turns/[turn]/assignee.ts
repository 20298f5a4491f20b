import { DONE, doneSchema, idSchema } from '@kindred-baton/contracts/common';
import { passTurnSchema } from '@kindred-baton/contracts/turns/turn';
import { passTurn } from '@kindred-baton/store/turns/pass-turn';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const PUT = defineEndpoint({
  input: passTurnSchema,
  output: doneSchema,
  handle: async ({ perform, param, body }) => {
    await perform(passTurn, { turnId: idSchema<'turn'>().parse(param('turn')), ...body });
    return DONE;
  },
});
