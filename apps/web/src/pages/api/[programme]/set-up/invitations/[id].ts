import { doneSchema, idSchema } from '@kindred-baton/contracts/common';
import { revokeInvitation } from '@kindred-baton/store/programmes/change-people';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const DELETE = defineEndpoint({
  output: doneSchema,
  handle: ({ perform, param }) => perform(revokeInvitation, idSchema<'invitation'>().parse(param('id'))),
});
