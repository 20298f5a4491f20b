import { createHash } from 'node:crypto';

/** Names what was seen: when it comes out otherwise the next time, the person has not seen it. */
export function toFingerprint(seen: unknown): string {
  return createHash('sha256').update(JSON.stringify(seen)).digest('hex');
}
