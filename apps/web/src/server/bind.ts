import { AppError } from '@kindred-baton/contracts/errors';
import type { Route } from '@kindred-baton/contracts/route';
import type { Right } from '@kindred-baton/core/programmes/roles';
import type { Actor } from '@kindred-baton/store/actor';
import { ask, perform } from '@kindred-baton/store/operation';
import type { Asker, Call } from './call.ts';
import { getStore } from './store.ts';

/** Asks the store in this thread. */
export const askHere =
  (actor: Actor): Asker =>
  (query, input) =>
    ask(getStore(), actor, query, input);

/** What an answer may ask of the store: reads, and changes that take the right which the route states; what it changes is told. */
export function bind(actor: Actor, route: Route, asker: Asker): Pick<Call, 'ask' | 'perform'> {
  const requireStated = (right: Right) => {
    if (right !== 'read' && right !== route.right) throw new AppError('broken', `${route.path} asks for the right to ${right}.`);
  };
  return {
    ask: (query, input) => {
      requireStated(query.right);
      return asker(query, input);
    },
    perform: (operation, input) => {
      requireStated(operation.right);
      return perform(getStore(), actor, operation, input, route.topics);
    },
  };
}
