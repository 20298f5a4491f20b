import { AppError } from '@kindred-baton/contracts/errors';
import type { Route } from '@kindred-baton/contracts/route';
import type { BoardId } from '@kindred-baton/core/ids';
import type { Actor } from '@kindred-baton/store/actor';
import { findObserver } from '@kindred-baton/store/boards/board-links';
import { getStore } from './store.ts';

const TOKEN = /^kbb_[A-Za-z0-9_-]{20,100}$/;

type Observer = Actor & { readonly shownBoardId: BoardId };

/** Whom a board's link lets look. What is withdrawn is refused at once: it is asked for each time. */
export async function findAskingObserver(token: string): Promise<Observer> {
  const observer = TOKEN.test(token) ? await findObserver(getStore(), token) : undefined;
  if (!observer) throw new AppError('not found', 'This link was withdrawn. Ask whoever gave it to you for another.');
  return observer;
}

/** A link opens its own board, and nothing else. */
export function requireForObserver({ shownBoardId }: Observer, route: Route, params: Readonly<Record<string, string>>): void {
  if (route.for === 'observers too' && params['board'] === shownBoardId) return;
  throw new AppError('forbidden', 'A link to a board shows that board, and nothing else.');
}
