import type { TurnCard, TurnList, TurnListQuery } from '@kindred-baton/contracts/turns/turn';
import { TURNS_A_PAGE } from '@kindred-baton/contracts/turns/turn';
import type { GroupColumn } from '@kindred-baton/core/turns/turn-columns';
import { getGroupKey } from '@kindred-baton/core/turns/turn-columns';
import { placePage } from '@kindred-baton/core/tables/pages';
import { count, eq, sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import type { Query, ReadContext } from '../operation.ts';
import { findCycles } from '../programmes/find-cycle.ts';
import { runs } from '../schema/cycles.ts';
import { turns } from '../schema/turns.ts';
import { COUNTED_PARTS } from './counted.ts';
import { loadTurnCards } from './load-turn-cards.ts';
import { GROUP_KEYS, orderTurns } from './turn-orders.ts';
import { withBelongings } from './with-belongings.ts';
import { findWanted } from './turn-filters.ts';

/** The turns behind a number: every count on a screen leads here with the filters that it was counted by. */
export const listTurns: Query<TurnListQuery, TurnList> = {
  right: 'read',
  read: async (context, query) => {
    const chosen = await findCycles(context, query.cycle);
    const where = await findWanted(
      context,
      query,
      chosen.map(({ id }) => id),
    );
    const { turns: size, ...sums } = await sumUp(context, where);
    const rows = placePage(size, { page: query.page, of: TURNS_A_PAGE });
    const order = orderTurns(query.group, query.sort);
    const cards = await loadTurnCards(context, { where, limit: TURNS_A_PAGE, offset: rows.from, order });
    const groups = query.group === undefined ? [] : await sumGroups(context, where, query.group, cards);
    return { cycles: chosen.map(({ code, name }) => ({ code, name })), rows, ...sums, groups, turns: cards };
  },
};

/** The groups that cards stand in, over all pages. */
async function sumGroups({ db }: ReadContext, where: SQL | undefined, group: GroupColumn, cards: readonly TurnCard[]) {
  const shown = new Set(cards.map((card) => getGroupKey(card, group)));
  const key = GROUP_KEYS[group];
  const sums = { key, turns: count(), minutes: sql<number>`coalesce(sum(${turns.minutes}), 0)::int` };
  const all = await withBelongings(db.select(sums).from(turns).$dynamic())
    .where(where)
    .groupBy(sql`1`);
  return all.filter((own) => shown.has(own.key));
}

async function sumUp({ db }: ReadContext, where: SQL | undefined) {
  const [sums] = await db
    .select({
      turns: count(),
      runs: sql<number>`count(distinct ${turns.runId})::int`,
      tests: sql<number>`count(distinct ${COUNTED_PARTS.tests.unit})::int`,
      minutes: sql<number>`coalesce(sum(${turns.minutes}), 0)::int`,
    })
    .from(turns)
    .innerJoin(runs, eq(runs.id, turns.runId))
    .where(where);
  return sums ?? { turns: 0, runs: 0, tests: 0, minutes: 0 };
}
