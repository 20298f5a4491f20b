import { createHash, randomBytes } from 'node:crypto';

const TOKEN_BYTES = 32;

/** A token is a random number: a plain hash of it is as good as a slow one. */
export const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex');

/** The prefix says what it opens. */
export const createToken = (prefix: string): string => `${prefix}${randomBytes(TOKEN_BYTES).toString('base64url')}`;
