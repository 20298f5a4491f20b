import { AppError } from '@kindred-baton/contracts/errors';
import { beginSchema } from '@kindred-baton/contracts/programmes/programme';
import { foundFirst, isEmptyStore } from '@kindred-baton/store/programmes/found-first';
import { hashPassword } from 'better-auth/crypto';
import { definePublicEndpoint } from '../../server/serve-public.ts';
import { getStore } from '../../server/store.ts';

const LEVELS = ['Value stream', 'Process', 'Activity'];

export const POST = definePublicEndpoint(beginSchema, async ({ name, email, password, programme, timeZone }) => {
  // Hashing is dear: once somebody is there, nobody gets so far.
  if (!(await isEmptyStore(getStore()))) throw new AppError('conflict', 'Somebody is here already. Ask to be invited.');
  const key = await foundFirst(getStore(), {
    ...{ name, email, passwordHash: await hashPassword(password) },
    programme: { key: toKey(programme), name: programme, timeZone, levels: LEVELS },
  });
  return { key };
});

function toKey(name: string): string {
  const key = name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^[^a-z]+|-+$/g, '')
    .slice(0, 40);
  return key.length < 2 || key === 'api' || key === 'sign-in' ? 'programme' : key;
}
