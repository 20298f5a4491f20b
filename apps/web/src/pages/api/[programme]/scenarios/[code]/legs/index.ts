import { idSchema } from '@kindred-baton/contracts/common';
import { addLegSchema } from '@kindred-baton/contracts/scenarios/scenario';
import { addLeg } from '@kindred-baton/store/scenarios/change-legs';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  input: addLegSchema,
  output: z.object({ id: idSchema<'leg'>() }),
  handle: ({ perform, param, body }) => perform(addLeg, { code: param('code'), leg: body }),
});
