import { DONE, doneSchema, idSchema } from '@kindred-baton/contracts/common';
import { changeLegSchema } from '@kindred-baton/contracts/scenarios/scenario';
import { changeLeg, removeLeg } from '@kindred-baton/store/scenarios/change-legs';
import { defineEndpoint } from '../../../../../../server/endpoint.ts';

export const PATCH = defineEndpoint({
  input: changeLegSchema,
  output: doneSchema,
  handle: async ({ perform, param, body }) => {
    await perform(changeLeg, { code: param('code'), legId: idSchema<'leg'>().parse(param('leg')), change: body });
    return DONE;
  },
});

export const DELETE = defineEndpoint({
  output: doneSchema,
  handle: async ({ perform, param }) => {
    await perform(removeLeg, { code: param('code'), legId: idSchema<'leg'>().parse(param('leg')) });
    return DONE;
  },
});
