import { readFileSync } from 'node:fs';
import { AppError } from '@kindred-baton/contracts/errors';
import type { KeyRing } from '@kindred-baton/store/secrets';
import { parseKeyRing, readKeyName, seal, unseal } from '@kindred-baton/store/secrets';
import { getConfig } from './config.ts';

let ring: KeyRing | undefined;

/** The keys of this installation; read anew where one is asked for that was not there before. */
function getKeys(needed?: string): KeyRing {
  const file = getConfig().KINDRED_BATON_KEYS;
  if (file === undefined)
    throw new AppError(
      'invalid',
      'This installation keeps no passwords: KINDRED_BATON_KEYS names no file of keys. Whoever runs it can set it.',
    );
  if (!ring || (needed !== undefined && !(needed in ring.keys))) ring = parseKeyRing(readFileSync(file, 'utf8'));
  return ring;
}

export const sealSecret = (plain: string, place: string): Buffer => seal(getKeys(), plain, place);

export const openSecret = (sealed: Buffer, place: string): string => unseal(getKeys(readKeyName(sealed)), sealed, place);
