import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { AppError } from '@kindred-baton/contracts/errors';

/** Keys by their names; new secrets are sealed with the current one, old ones open with the one that they name. */
export interface KeyRing {
  readonly current: string;
  readonly keys: Readonly<Record<string, string>>;
}

/** Seals a secret for one place, with the keys of this installation. */
export type Seal = (secret: string, place: string) => Buffer;

const KEY_BYTES = 32;
const NONCE_BYTES = 12;
const TAG_BYTES = 16;
const CIPHER = 'aes-256-gcm';

/** Reads the text of a key file. Throws a sentence when it is none. */
export function parseKeyRing(text: string): KeyRing {
  try {
    const ring = JSON.parse(text) as KeyRing;
    const isWhole = Object.values(ring.keys).every((key) => Buffer.from(key, 'base64').length === KEY_BYTES) && ring.current in ring.keys;
    if (isWhole) return ring;
  } catch {
    // Said below, as for a file that can be read and holds no keys.
  }
  throw new Error('The file of keys cannot be read: it should hold "current" and "keys", each of 32 bytes in base64.');
}

/** The same ring with a new key, which is the current one from now on. */
export function addKey(ring: KeyRing | undefined): KeyRing {
  const current = `k${Object.keys(ring?.keys ?? {}).length + 1}`;
  return { current, keys: { ...ring?.keys, [current]: randomBytes(KEY_BYTES).toString('base64') } };
}

/**
 * Seals a text with AES-256-GCM (NIST SP 800-38D) so that it opens in one place alone: the name of the key, its length before it, then nonce, tag and
 * what is sealed.
 */
export function seal(ring: KeyRing, plain: string, place: string): Buffer {
  const nonce = randomBytes(NONCE_BYTES);
  const cipher = createCipheriv(CIPHER, Buffer.from(ring.keys[ring.current]!, 'base64'), nonce).setAAD(Buffer.from(place));
  const sealed = Buffer.concat([cipher.update(plain, 'utf8'), cipher.final()]);
  const name = Buffer.from(ring.current);
  return Buffer.concat([Buffer.from([name.length]), name, nonce, cipher.getAuthTag(), sealed]);
}

/** With which key a secret was sealed. */
export const readKeyName = (sealed: Buffer): string => sealed.subarray(1, 1 + (sealed[0] ?? 0)).toString();

/** Opens what was sealed for this place. Throws a sentence when its key is gone, or it was sealed for another place. */
export function unseal(ring: KeyRing, sealed: Buffer, place: string): string {
  const key = ring.keys[readKeyName(sealed)];
  if (key === undefined)
    throw new AppError('broken', 'A password cannot be opened: the key that sealed it is gone. Set the password anew.');
  const from = 1 + (sealed[0] ?? 0);
  const nonce = sealed.subarray(from, from + NONCE_BYTES);
  const tag = sealed.subarray(from + NONCE_BYTES, from + NONCE_BYTES + TAG_BYTES);
  const decipher = createDecipheriv(CIPHER, Buffer.from(key, 'base64'), nonce).setAAD(Buffer.from(place)).setAuthTag(tag);
  try {
    return Buffer.concat([decipher.update(sealed.subarray(from + NONCE_BYTES + TAG_BYTES)), decipher.final()]).toString('utf8');
  } catch (error) {
    throw new AppError('broken', 'A password cannot be opened: it was changed, or sealed for something else. Set the password anew.', {
      cause: error,
    });
  }
}
