import type { TurnListQuery } from '@kindred-baton/contracts/turns/turn';
import { turnListQuerySchema } from '@kindred-baton/contracts/turns/turn';

/** The filters of a list of turns, from its address. The strip's scope is a node too; an own node is narrower and wins. */
export function readTurnQuery(cycle: string, params: URLSearchParams): TurnListQuery {
  const { scope, ...filters } = Object.fromEntries(params);
  return turnListQuerySchema.parse({ ...(scope === undefined ? {} : { node: scope }), ...filters, cycle });
}
