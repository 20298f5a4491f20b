import type { PersonId } from '@kindred-baton/core/ids';
import { hasRight } from '@kindred-baton/core/programmes/roles';
import { findHome } from '@kindred-baton/store/programmes/get-viewer';
import { getStore } from './store.ts';

/** Testers come for their turns, owners for what is theirs to decide, everybody else for progress. undefined: she belongs to no such programme. */
export async function findHomePath(personId: PersonId, programme?: string): Promise<string | undefined> {
  const home = await findHome(getStore(), personId, programme);
  if (!home) return undefined;
  const { key, roles, decidesOn } = home;
  if (roles.every((role) => role === 'tester')) return `/${key}/turns`;
  if (decidesOn !== null && hasRight(roles, 'sign off') && !hasRight(roles, 'run cycles'))
    return `/${key}/cycles/${encodeURIComponent(decidesOn)}?view=acceptance`;
  return `/${key}/progress`;
}
