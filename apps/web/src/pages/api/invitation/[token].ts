import { acceptInvitationSchema } from '@kindred-baton/contracts/programmes/programme';
import { acceptInvitation } from '@kindred-baton/store/programmes/change-people';
import { hashPassword } from 'better-auth/crypto';
import { definePublicEndpoint } from '../../../server/endpoint.ts';
import { getStore } from '../../../server/store.ts';

export const POST = definePublicEndpoint(acceptInvitationSchema, async ({ name, password }, params) => ({
  key: await acceptInvitation(getStore(), { token: params['token'] ?? '', name, passwordHash: await hashPassword(password) }),
}));
