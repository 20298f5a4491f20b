import type { EffortCell } from '@kindred-baton/contracts/progress/effort';
import type { TeamLine, TeamProgress, TeamProgressQuery } from '@kindred-baton/contracts/progress/teams';
import { NONE } from '@kindred-baton/core/progress/facet';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import { and, asc, count, eq, sql } from 'drizzle-orm';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import type { InScope } from '../runs/in-scope.ts';
import { isOfCycle } from '../runs/in-scope.ts';
import { loadHolds } from '../runs/load-holds.ts';
import { teams } from '../schema/programmes.ts';
import { turns } from '../schema/turns.ts';
import { isLate } from '../turns/filter-turns.ts';
import { findCycle, listCycleNames, toSpan } from '../programmes/find-cycle.ts';
import { withSpent } from './spent.ts';
import { countWaitingByTeam } from './tell-holds.ts';

/** The teams of a cycle side by side: what is theirs, what is late, what waits for them, and what their turns took beside what was planned. */
export const getTeamProgress: Query<TeamProgressQuery, TeamProgress> = {
  right: 'read',
  read: async (context, query) => {
    const [cycle, cycles] = await Promise.all([findCycle(context, query.cycle), listCycleNames(context)]);
    if (!cycle) return { cycle: null, cycles, teams: [] };
    const nodes = query.scope === undefined ? null : listSubtree(await loadTree(context), query.scope);
    const own = { cycleId: cycle.id, nodes };
    const [names, statuses, late, efforts, held] = await Promise.all([
      listTeams(context),
      countStatuses(context, own),
      countLate(context, own),
      sumEffort(context, own),
      loadHolds(context, [cycle.id]),
    ]);
    const keeps = countWaitingByTeam(held, nodes && new Set(nodes));
    const toLine = (id: string | null, name: string): TeamLine => ({
      key: id === null ? NONE : name,
      name,
      counts: {
        ...NO_COUNTS,
        ...Object.fromEntries(statuses.filter(({ team }) => team === id).map(({ status, turns: of }) => [status, of])),
      },
      late: late.get(id) ?? 0,
      keeps: keeps.get(id ?? '') ?? 0,
      ...(efforts.get(id) ?? { tried: 0, planned: 0, spent: 0 }),
    });
    const present = new Set(statuses.map(({ team }) => team));
    return {
      ...{ cycle: toSpan(cycle), cycles },
      teams: [
        ...names.flatMap(({ id, name }) => (present.has(id) ? [toLine(id, name)] : [])),
        ...(present.has(null) ? [toLine(null, 'No team')] : []),
      ],
    };
  },
};

const listTeams = ({ db, actor }: ReadContext) =>
  db
    .select({ id: teams.id, name: teams.name })
    .from(teams)
    .where(eq(teams.programmeId, actor.programmeId))
    .orderBy(asc(teams.position), asc(teams.name));

function countStatuses({ db }: ReadContext, own: InScope): Promise<{ team: string | null; status: TurnStatus; turns: number }[]> {
  return db
    .select({ team: turns.teamId, status: turns.status, turns: count() })
    .from(turns)
    .where(isOfCycle(own))
    .groupBy(turns.teamId, turns.status);
}

async function countLate(context: ReadContext, own: InScope): Promise<ReadonlyMap<string | null, number>> {
  const rows = await context.db
    .select({ team: turns.teamId, turns: count() })
    .from(turns)
    .where(and(isOfCycle(own), isLate(context)))
    .groupBy(turns.teamId);
  return new Map(rows.map(({ team, turns: of }) => [team, of]));
}

async function sumEffort({ db }: ReadContext, own: InScope): Promise<ReadonlyMap<string | null, EffortCell>> {
  const { rows } = await db.execute<EffortCell & { team: string | null }>(sql`
    ${withSpent(isOfCycle(own))}
    select team, count(*)::int as tried, sum(minutes)::float8 as planned, sum(spent)::float8 as spent from spent group by team`);
  return new Map(rows.map(({ team, ...effort }) => [team, effort]));
}
