import { invitedSchema, inviteSchema } from '@kindred-baton/contracts/programmes/programme';
import { invitePeople } from '@kindred-baton/store/programmes/change-people';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  input: inviteSchema,
  output: invitedSchema,
  handle: ({ perform, body }) => perform(invitePeople, body),
});
