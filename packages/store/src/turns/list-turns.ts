import { and, count, eq, inArray } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { TurnList, TurnListQuery } from '@kindred-baton/contracts/turns/turn';
import { TURNS_A_PAGE } from '@kindred-baton/contracts/turns/turn';
import type { CycleId } from '@kindred-baton/core/ids';
import { placePage } from '@kindred-baton/core/tables/pages';
import type { FacetFilter } from '@kindred-baton/core/progress/facet';
import { FACETS, getFacetFilter } from '@kindred-baton/core/progress/facet';
import type { Query, ReadContext } from '../operation.ts';
import { isTurnInScope } from '../runs/in-scope.ts';
import { loadHolds } from '../runs/load-holds.ts';
import { cycles } from '../schema/cycles.ts';
import { turns } from '../schema/turns.ts';
import { TURN_FACETS } from './facets.ts';
import type { TurnFilter } from './filter-turns.ts';
import { amongIds, byDayTried, byDefect, byDoneSince, byReadySince, byRequirement, byRun, byTest, isLate } from './filter-turns.ts';
import { loadTurnCards } from './load-turn-cards.ts';

/** The turns behind a number: every count on a screen leads here with the filters that it was counted by. Of a run that was taken out, only that run tells. */
export const listTurns: Query<TurnListQuery, TurnList> = {
  right: 'read',
  read: async (context, query) => {
    const { db, actor } = context;
    const [cycle] = await db
      .select({ id: cycles.id, code: cycles.code, name: cycles.name })
      .from(cycles)
      .where(and(eq(cycles.programmeId, actor.programmeId), eq(cycles.code, query.cycle)));
    if (!cycle) throw new AppError('not found', `There is no cycle ${query.cycle}.`);
    const isCounted = query.run === undefined ? isTurnInScope : undefined;
    const where = and(eq(turns.cycleId, cycle.id), isCounted, ...(await toConditions(context, query, cycle.id)));
    const [counted] = await db.select({ turns: count() }).from(turns).where(where);
    const rows = placePage(counted?.turns ?? 0, { page: query.page, of: TURNS_A_PAGE });
    const cards = await loadTurnCards(context, { where, limit: TURNS_A_PAGE, offset: rows.from });
    return { cycle: { code: cycle.code, name: cycle.name }, rows, turns: cards };
  },
};

/** Every filter by its name in the query: those of the facets, and those that no facet has. */
const FILTERS: Readonly<
  Record<FacetFilter | 'test' | 'requirement' | 'defect' | 'late' | 'tried' | 'doneSince' | 'readySince' | 'run' | 'hold', TurnFilter>
> = {
  ...(Object.fromEntries(FACETS.map((facet) => [getFacetFilter(facet), TURN_FACETS[facet].filter])) as Record<FacetFilter, TurnFilter>),
  test: byTest,
  requirement: byRequirement,
  defect: byDefect,
  late: isLate,
  tried: byDayTried,
  doneSince: byDoneSince,
  readySince: byReadySince,
  run: byRun,
  hold: async (context, hold, cycleId) => amongIds(turns.id, await listHeldTurns(context, cycleId, hold)),
};

async function toConditions(context: ReadContext, query: TurnListQuery, cycleId: CycleId): Promise<(SQL | undefined)[]> {
  const named = (Object.keys(FILTERS) as (keyof typeof FILTERS)[]).flatMap((name) => {
    const value = query[name];
    return value === undefined || value === '' ? [] : [FILTERS[name](context, String(value), cycleId)];
  });
  return [query.status ? inArray(turns.status, query.status) : undefined, ...(await Promise.all(named))];
}

async function listHeldTurns(context: ReadContext, cycleId: typeof turns.$inferSelect.cycleId, hold: string): Promise<string[]> {
  const { holds } = await loadHolds(context, cycleId);
  const found = holds.find((candidate) => `${candidate.kind}:${candidate.key}` === hold);
  return found ? [...found.behind] : [];
}
