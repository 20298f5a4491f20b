import { AppError } from '@kindred-baton/contracts/errors';
import type { Route } from '@kindred-baton/contracts/route';
import type { Actor } from '@kindred-baton/store/actor';
import { findRunner } from '@kindred-baton/store/runners/runners';
import { onChange } from './live.ts';
import { createMemory } from './remember.ts';
import { getStore } from './store.ts';

const LASTS_MS = 20_000;
const MOST_KEPT = 1_000;
const known = createMemory<Actor>(LASTS_MS, MOST_KEPT);
let isFollowing = false;

const TOKEN = /^Bearer (kbr_[A-Za-z0-9_-]{20,100})$/;

/** Whose token a request carries; undefined: it carries none. One that is withdrawn is refused, from whichever server it was. */
export async function findAskingRunner(request: Request): Promise<Actor | undefined> {
  const header = request.headers.get('authorization');
  if (header === null) return undefined;
  if (!isFollowing) {
    isFollowing = true;
    onChange(({ topic }) => topic === 'programme' && known.forgetAll());
  }
  const token = TOKEN.exec(header)?.[1];
  const found = token === undefined ? undefined : (known.get(token) ?? (await findRunner(getStore(), token)));
  if (!found || token === undefined) throw new AppError('not signed in', 'This token is not known, or was withdrawn. Add the runner anew.');
  known.set(token, found);
  return found;
}

/** A token opens what a runner needs, in its own programme, and nothing else. */
export function requireForRunner(actor: Actor, route: Route, programme: string): Actor {
  if (actor.programmeKey !== programme) throw new AppError('not found', `There is no programme “${programme}” for this token.`);
  if (route.for !== 'runners' && route.for !== 'runners too')
    throw new AppError('forbidden', 'A runner’s token opens nothing but its turns.');
  return actor;
}
