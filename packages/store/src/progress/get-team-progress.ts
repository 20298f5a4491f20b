import type { EffortCell } from '@kindred-baton/contracts/progress/effort';
import type { TeamLine, TeamProgress, TeamProgressQuery } from '@kindred-baton/contracts/progress/teams';
import { AppError } from '@kindred-baton/contracts/errors';
import { NONE } from '@kindred-baton/core/progress/facet';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import { and, asc, count, eq, sql } from 'drizzle-orm';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import type { InScope } from '../runs/in-scope.ts';
import { isOfCycle } from '../runs/in-scope.ts';
import { loadHolds } from '../runs/load-holds.ts';
import { people } from '../schema/people.ts';
import { programmes, teams } from '../schema/programmes.ts';
import { turns } from '../schema/turns.ts';
import { isLate } from '../turns/filter-turns.ts';
import { findCycle, listCycleNames, toSpan } from '../programmes/find-cycle.ts';
import { withSpent } from '../turns/spent.ts';
import { countWaitingByTeam } from './tell-holds.ts';

/** What stands side by side: who has a turn, and how it is called where nobody has it. */
const EACH = {
  team: { of: turns.teamId, spent: sql`team`, none: 'No team' },
  tester: { of: turns.assigneeId, spent: sql`person`, none: 'Nobody' },
} as const;
type Each = (typeof EACH)[keyof typeof EACH];

/**
 * The teams of a cycle side by side, or its testers where the programme lets them be named: what is theirs, what is late, what waits for them, and what their
 * turns took beside what was planned.
 */
export const getTeamProgress: Query<TeamProgressQuery, TeamProgress> = {
  right: 'read',
  read: async (context, query) => {
    const [cycle, cycles, mayNameTesters] = await Promise.all([findCycle(context, query.cycle), listCycleNames(context), mayName(context)]);
    if (query.each === 'tester' && !mayNameTesters)
      throw new AppError('forbidden', 'This programme does not show testers side by side. Whoever sets it up can allow it.');
    const whose = { cycles, each: query.each, mayNameTesters };
    if (!cycle) return { ...whose, cycle: null, teams: [] };
    const nodes = query.scope === undefined ? null : listSubtree(await loadTree(context), query.scope);
    const own = { cycleId: cycle.id, nodes };
    const each = EACH[query.each];
    const [names, statuses, late, efforts, held] = await Promise.all([
      query.each === 'team' ? listTeams(context) : listTesters(context, own),
      countStatuses(context, own, each),
      countLate(context, own, each),
      sumEffort(context, own, each),
      query.each === 'team' ? loadHolds(context, [cycle.id]) : null,
    ]);
    const keeps = held && countWaitingByTeam(held, nodes && new Set(nodes));
    const toLine = (id: string | null, name: string): TeamLine => ({
      key: id === null ? NONE : name,
      name,
      counts: {
        ...NO_COUNTS,
        ...Object.fromEntries(statuses.filter(({ whom }) => whom === id).map(({ status, turns: of }) => [status, of])),
      },
      late: late.get(id) ?? 0,
      keeps: keeps && (keeps.get(id ?? '') ?? 0),
      ...(efforts.get(id) ?? { tried: 0, planned: 0, spent: 0 }),
    });
    const present = new Set(statuses.map(({ whom }) => whom));
    return {
      ...{ ...whose, cycle: toSpan(cycle) },
      teams: [
        ...names.flatMap(({ id, name }) => (present.has(id) ? [toLine(id, name)] : [])),
        ...(present.has(null) ? [toLine(null, each.none)] : []),
      ],
    };
  },
};

async function mayName({ db, actor }: ReadContext): Promise<boolean> {
  const [row] = await db.select({ may: programmes.namesTesters }).from(programmes).where(eq(programmes.id, actor.programmeId));
  return row?.may ?? false;
}

const listTeams = ({ db, actor }: ReadContext) =>
  db
    .select({ id: teams.id, name: teams.name })
    .from(teams)
    .where(eq(teams.programmeId, actor.programmeId))
    .orderBy(asc(teams.position), asc(teams.name));

const listTesters = ({ db }: ReadContext, own: InScope) =>
  db
    .selectDistinct({ id: people.id, name: people.name })
    .from(people)
    .innerJoin(turns, eq(turns.assigneeId, people.id))
    .where(isOfCycle(own))
    .orderBy(asc(people.name), asc(people.id));

function countStatuses(
  { db }: ReadContext,
  own: InScope,
  { of }: Each,
): Promise<{ whom: string | null; status: TurnStatus; turns: number }[]> {
  return db.select({ whom: of, status: turns.status, turns: count() }).from(turns).where(isOfCycle(own)).groupBy(of, turns.status);
}

async function countLate(context: ReadContext, own: InScope, { of }: Each): Promise<ReadonlyMap<string | null, number>> {
  const rows = await context.db
    .select({ whom: of, turns: count() })
    .from(turns)
    .where(and(isOfCycle(own), isLate(context)))
    .groupBy(of);
  return new Map(rows.map(({ whom, turns: late }) => [whom, late]));
}

async function sumEffort({ db }: ReadContext, own: InScope, { spent }: Each): Promise<ReadonlyMap<string | null, EffortCell>> {
  const { rows } = await db.execute<EffortCell & { whom: string | null }>(sql`
    ${withSpent(isOfCycle(own))}
    select ${spent} as whom, count(*)::int as tried, sum(minutes)::float8 as planned, sum(spent)::float8 as spent from spent group by 1`);
  return new Map(rows.map(({ whom, ...effort }) => [whom, effort]));
}
