import type { TeamLine, TeamProgress, TeamProgressQuery } from '@kindred-baton/contracts/progress/teams';
import { NONE } from '@kindred-baton/core/progress/facet';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import { SHORTEST_PAUSE_MINUTES } from '@kindred-baton/core/progress/effort';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import { and, asc, count, eq, isNotNull, sql } from 'drizzle-orm';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import type { InScope } from '../runs/in-scope.ts';
import { isOfCycle } from '../runs/in-scope.ts';
import { loadHolds } from '../runs/load-holds.ts';
import { teams } from '../schema/programmes.ts';
import { attempts, stepResults, turns } from '../schema/turns.ts';
import { isLate } from '../turns/filter-turns.ts';
import { findCycle, listCycleNames, toSpan } from '../programmes/find-cycle.ts';
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

/**
 * What turns took that people tried to the end, over all their attempts, as core says it of one (core/progress/effort): times between words, pauses taken out.
 * What a runner did is no person's work, and what an attempt took over was that one's before.
 */
async function sumEffort(
  { db }: ReadContext,
  own: InScope,
): Promise<ReadonlyMap<string | null, Pick<TeamLine, 'tried' | 'planned' | 'spent'>>> {
  const { rows } = await db.execute<{ team: string | null; tried: number; planned: number; spent: number }>(sql`
    with ended as (
      select ${attempts.id} as attempt, ${turns.id} as turn, ${turns.teamId} as team, ${turns.minutes} as minutes,
        ${attempts.startedAt} as started_at, ${attempts.finishedAt} as finished_at, ${attempts.runnerId} is null as is_by_hand
      from ${attempts} join ${turns} on ${eq(turns.id, attempts.turnId)} where ${and(isOfCycle(own), isNotNull(attempts.finishedAt))}
    ), words as (
      select ended.*, started_at as at, false as is_work from ended
      union all select ended.*, ${stepResults.recordedAt}, ${stepResults.runnerId} is null
        from ended join ${stepResults} on ${stepResults.attemptId} = ended.attempt
        where ${stepResults.outcome} is not null and ${stepResults.recordedAt} between started_at and finished_at
      union all select ended.*, finished_at, is_by_hand from ended
    ), gaps as (
      select team, turn, minutes, is_work, at - lag(at) over (partition by attempt order by at, is_work) as gap from words
    ), of_turns as (
      select team, turn, minutes, coalesce(sum(extract(epoch from gap)) filter (
        where is_work and gap <= make_interval(mins => greatest(${SHORTEST_PAUSE_MINUTES}::int, minutes))), 0) / 60 as spent
      from gaps group by team, turn, minutes having bool_or(is_work)
    )
    select team, count(*)::int as tried, sum(minutes)::float8 as planned, sum(spent)::float8 as spent from of_turns group by team`);
  return new Map(rows.map(({ team, ...effort }) => [team, effort]));
}
