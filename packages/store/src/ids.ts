import { randomUUID } from 'node:crypto';
import type { Id } from '@kindred-baton/core/ids';

/** Mints an identifier of the kind that the caller's type asks for. */
export function createId<Kind extends string>(): Id<Kind> {
  return randomUUID() as Id<Kind>;
}
