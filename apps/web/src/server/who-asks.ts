import type { PersonId } from '@kindred-baton/core/ids';
import { AppError } from '@kindred-baton/contracts/errors';
import type { Actor } from '@kindred-baton/store/actor';
import { getActor } from '@kindred-baton/store/actor';
import { getAuth } from './auth.ts';
import { onChange } from './live.ts';
import { createMemory } from './remember.ts';
import { getStore } from './store.ts';

/** A session that ends elsewhere still works for so long at most; one that ends here ends at once. */
const LASTS_MS = 20_000;
const MOST_KEPT = 10_000;

const people = createMemory<PersonId>(LASTS_MS, MOST_KEPT);
const actors = createMemory<Actor>(LASTS_MS, MOST_KEPT);
let isFollowing = false;

/** Whose session a request carries; undefined: nobody's. */
export async function findPerson(request: Request): Promise<PersonId | undefined> {
  const cookie = request.headers.get('cookie') ?? '';
  const known = people.get(cookie);
  if (known !== undefined) return known;
  const session = await getAuth()
    .api.getSession({ headers: request.headers })
    .catch((error: unknown) => {
      throw new AppError('unavailable', 'Who you are cannot be found out right now. Try again in a moment.', { cause: error });
    });
  const personId = session?.user.id as PersonId | undefined;
  if (personId !== undefined) people.set(cookie, personId);
  return personId;
}

/** After signing in or out, or a change of password: what was known of anybody's session is asked again. */
export function forgetPeople(): void {
  people.forgetAll();
}

/** What a person may do in a programme; a change of roles or people is heard of at once, from whichever server. */
export async function findActor(personId: PersonId, programme: string): Promise<Actor> {
  if (!isFollowing) {
    isFollowing = true;
    onChange(({ topic }) => topic === 'programme' && actors.forgetAll());
  }
  const key = `${personId} ${programme}`;
  const known = actors.get(key);
  if (known) return known;
  const actor = await getActor(getStore(), personId, programme);
  actors.set(key, actor);
  return actor;
}
