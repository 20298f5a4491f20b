import { AppError } from '@kindred-baton/contracts/errors';
import type { Route } from '@kindred-baton/contracts/route';
import type { Actor } from '@kindred-baton/store/actor';
import { findReader } from '@kindred-baton/store/extracts/data-addresses';
import { getStore } from './store.ts';

const TOKEN = /^kbd_[A-Za-z0-9_-]{20,100}$/;

/** The token of an address for data: in its query, as spreadsheets take it, or in a header. What does not begin as one is somebody else's. */
function readToken(request: Request, url: URL): string | undefined {
  const given = [request.headers.get('authorization')?.replace(/^Bearer /, ''), url.searchParams.get('token')];
  return given.find((text) => text?.startsWith('kbd_')) ?? undefined;
}

/** In whose name an address for data reads; undefined: the request is none. What is withdrawn is refused at once: it is asked for each time. */
export async function findAskingReader(request: Request, url: URL): Promise<Actor | undefined> {
  const token = readToken(request, url);
  if (token === undefined) return undefined;
  const reader = TOKEN.test(token) ? await findReader(getStore(), token) : undefined;
  if (!reader)
    throw new AppError('not signed in', 'This address was withdrawn, or its time is over. Ask whoever gave it to you for another.');
  return reader;
}

/** An address opens rows of its own programme, and nothing else. */
export function requireForReader(actor: Actor, route: Route, programme: string): void {
  if (actor.programmeKey !== programme) throw new AppError('not found', `There is no programme “${programme}” at this address.`);
  if (route.for !== 'addresses too') throw new AppError('forbidden', 'An address for data opens rows, and nothing else.');
}
