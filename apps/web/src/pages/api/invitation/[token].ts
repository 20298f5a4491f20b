import { AppError } from '@kindred-baton/contracts/errors';
import { acceptInvitationSchema } from '@kindred-baton/contracts/programmes/programme';
import { acceptInvitation, findInvitation } from '@kindred-baton/store/programmes/change-people';
import { hashPassword } from 'better-auth/crypto';
import { definePublicEndpoint } from '../../../server/serve-public.ts';
import { getStore } from '../../../server/store.ts';

export const POST = definePublicEndpoint(acceptInvitationSchema, async ({ name, password }, params) => {
  const token = params['token'] ?? '';
  // Hashing is dear: a stranger's guess does not get so far.
  if (!(await findInvitation(getStore(), token)))
    throw new AppError('not found', 'This invitation was used already, or taken back. Ask the lead for another.');
  return acceptInvitation(getStore(), { token, name, passwordHash: await hashPassword(password) });
});
