import type { CourseQuery, CourseView, PackedCourse } from '@kindred-baton/contracts/progress/course';
import { NONE } from '@kindred-baton/core/progress/facet';
import type { NodeId } from '@kindred-baton/core/ids';
import { LETTING_ON } from '@kindred-baton/core/outcomes';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import { isThrough } from '@kindred-baton/core/cycles/plan/to-problem';
import type { CourseTry, CourseTurn } from '@kindred-baton/core/progress/course';
import { packRows } from '@kindred-baton/core/tables/pack-rows';
import { toDay } from '@kindred-baton/core/time/calendar';
import { countDaysBetween, DAY_BEGINS } from '@kindred-baton/core/time/work-days';
import type { SQLWrapper } from 'drizzle-orm';
import { and, asc, eq, gt, inArray, isNotNull, not, sql } from 'drizzle-orm';
import type { ScopeSize } from '../cycles/change-scope.ts';
import { loadLanes } from '../cycles/load-lanes.ts';
import { loadPlanPools } from '../cycles/load-plan-pools.ts';
import { toWallClock } from '../cycles/to-wall-clock.ts';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import { readPacked } from '../read-packed.ts';
import { isAtNodes, isOfCycle } from '../runs/in-scope.ts';
import { isSparable } from '../runs/is-sparable.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { baselines, runs } from '../schema/cycles.ts';
import { history } from '../schema/history.ts';
import { runners } from '../schema/runners.ts';
import { attempts, turns } from '../schema/turns.ts';
import { findCycle, listCycleNames, toSpan } from '../programmes/find-cycle.ts';

/** The course of a cycle: its turns and attempts, who has how much time, what was planned when it opened. Curve and forecast are core's, where they are shown. */
export const getCourse: Query<CourseQuery, CourseView> = {
  right: 'read',
  read: async (context, query) => {
    const [cycle, cycles] = await Promise.all([findCycle(context, query.cycle), listCycleNames(context)]);
    if (!cycle) return { cycle: null, cycles, course: null };
    const nodes = query.scope === undefined ? null : listSubtree(await loadTree(context), query.scope);
    return {
      cycle: toSpan(cycle),
      cycles,
      course: cycle.openedAt === null ? null : await loadCourse(context, cycle, { openedAt: cycle.openedAt, nodes }),
    };
  },
};

interface Wanted {
  readonly openedAt: Date;
  readonly nodes: readonly NodeId[] | null;
}

/** So long after today, or after its end, a cycle is looked at. */
const DAYS_BEHIND = 200;

const REPEATED = ['isThrough', 'isWrong', 'isStopped', 'isCounted', 'isSparable', 'leftOutOn'] as const;

const isWrong = (status: TurnStatus) => status === 'failed' || status === 'blocked';

/** Eight queries. */
async function loadCourse(context: ReadContext, cycle: CycleRow, { openedAt, nodes }: Wanted): Promise<PackedCourse> {
  const { timeZone } = context.actor;
  const opened = toWallClock(openedAt, timeZone);
  const now = toWallClock(cycle.closedAt ?? context.now, timeZone);
  const firstDay = opened.day;
  const today = Math.max(0, countDaysBetween(firstDay, now.day));
  const plannedDay = countDaysBetween(firstDay, cycle.endsOn);
  const days = Math.max(today, plannedDay) + 1 + DAYS_BEHIND;
  const own = { cycle, firstDay, nodes };
  const [people, pools, turnRows, tryRows, baselineRows, scopeChanges] = await Promise.all([
    loadLanes(context, { firstDay, days }),
    loadPlanPools(context, { firstDay, days }),
    listTurns(context, own),
    listTries(context, own),
    listBaseline(context, own),
    listScopeChanges(context, cycle, openedAt),
  ]);
  const lanes = nameLanes(people, pools);
  const groups = nameGroups(
    people.teams,
    new Set([...turnRows.filter(({ isCounted }) => isCounted), ...baselineRows].map(({ team }) => team)),
  );
  const groupOf = new Map(groups.map(({ id }, at) => [id, at]));
  const laneOf = new Map(lanes.map(({ id }, at) => [id, at]));
  const toLane = (team: string | null, doer: string | null) => laneOf.get(doer ?? '') ?? laneOf.get(team ?? NONE) ?? 0;
  const placeOf = new Map(turnRows.map(({ run, index }, at) => [`${run} ${index}`, at]));
  return {
    ...{ firstDay, today, plannedDay, isOver: cycle.closedAt !== null, scopeChanges },
    ...{ firstShare: getShareLeft(opened.minute, people.teams), todayShare: cycle.closedAt ? 0 : getShareLeft(now.minute, people.teams) },
    groups: groups.map(({ key, name }) => ({ key, name })),
    lanes: lanes.map(({ name, people: count, minutesByDay }) => ({ name, people: count, minutesByDay })),
    turns: packRows(
      turnRows.map(({ team, assignee, status, isRetestDue, ...turn }): CourseTurn => ({
        ...{ ...turn, group: groupOf.get(team) ?? 0, lane: toLane(team, assignee), isThrough: isThrough(status) },
        ...{ isWrong: isWrong(status), isStopped: isWrong(status) && !isRetestDue },
      })),
      REPEATED,
    ),
    tries: packRows(
      tryRows.flatMap(({ run, index, team, pool, ...one }): CourseTry[] => {
        const turn = placeOf.get(`${run} ${index}`);
        return turn === undefined ? [] : [{ ...one, turn, lane: toLane(team, pool) }];
      }),
      ['isThrough'],
    ),
    baseline: baselineRows.map(({ team, ...row }) => ({ ...row, group: groupOf.get(team) ?? 0 })),
  };
}

type People = Awaited<ReturnType<typeof loadLanes>>;

/** Who is in several teams has a share of her time for each. */
function nameLanes({ teams, people }: People, pools: Awaited<ReturnType<typeof loadPlanPools>>) {
  const days = teams[0]?.minutesByDay.length ?? 0;
  const ofTeams = teams.map(({ id, name }) => {
    const own = people.filter((person) => person.teams.includes(id));
    const minutesByDay = Array.from({ length: days }, (_, day) =>
      Math.round(own.reduce((sum, person) => sum + (person.minutesByDay[day] ?? 0) / person.teams.length, 0)),
    );
    return { id, name, people: own.length, minutesByDay };
  });
  const ofPools = pools.map(({ id, name, sessions, minutesByDay }) => ({
    ...{ id: id as string, name, people: sessions, minutesByDay: minutesByDay.map((minutes) => minutes * sessions) },
  }));
  return [...ofTeams, { id: NONE as string, name: 'No team', people: 0, minutesByDay: new Array<number>(days).fill(0) }, ...ofPools];
}

const nameGroups = (teams: People['teams'], present: ReadonlySet<string | null>) => [
  ...teams.flatMap(({ id, name }) => (present.has(id) ? [{ id: id as string | null, key: name, name }] : [])),
  ...(present.has(null) ? [{ id: null, key: NONE as string, name: 'No team' }] : []),
];

/** How much of a day's work is left at a minute of it, for the longest of the teams' days. */
function getShareLeft(minute: number, teams: People['teams']): number {
  const length = 60 * Math.max(1, ...teams.map(({ hoursPerDay }) => hoursPerDay));
  return Math.min(1, Math.max(0, (DAY_BEGINS + length - minute) / length));
}

interface Own {
  readonly cycle: CycleRow;
  readonly firstDay: string;
  readonly nodes: readonly NodeId[] | null;
}

interface TurnRow extends Omit<CourseTurn, 'group' | 'lane' | 'isThrough' | 'isWrong' | 'isStopped'> {
  readonly team: string | null;
  readonly assignee: string | null;
  readonly status: TurnStatus;
  readonly isRetestDue: boolean;
}

const listTurns = (context: ReadContext, { cycle, firstDay, nodes }: Own): Promise<TurnRow[]> =>
  readPacked<TurnRow>(context, {
    cells: {
      ...{ run: runs.number, index: turns.index, after: turns.after, waitDays: turns.waitDays, minutes: turns.minutes },
      ...{ team: turns.teamId, assignee: turns.assigneeId, status: turns.status, isRetestDue: turns.isRetestDue },
      leftOutOn: sql`case when ${turns.status} = 'skipped' then ${toDayNumber(context, turns.doneAt, firstDay)} end`,
      dueOn: sql`${turns.dueOn} - ${firstDay}::date`,
      isSparable,
      isCounted: sql`coalesce(${isAtNodes(nodes) ?? sql`true`}, false)`,
    },
    from: sql`from ${turns} join ${runs} on ${eq(runs.id, turns.runId)} where ${isOfCycle({ cycleId: cycle.id, nodes: null })}
      order by ${runs.number}, ${turns.index}`,
  });

const toDayNumber = ({ actor }: ReadContext, at: SQLWrapper, firstDay: string) =>
  sql`(${at} at time zone ${actor.timeZone})::date - ${firstDay}::date`;

interface TryRow extends Pick<CourseTry, 'day' | 'isThrough'> {
  readonly run: number;
  readonly index: number;
  readonly team: string | null;
  readonly pool: string | null;
}

/** An attempt that its maker left behind says nothing. */
const listTries = (context: ReadContext, { cycle, firstDay }: Own): Promise<TryRow[]> =>
  readPacked<TryRow>(context, {
    cells: {
      ...{ run: runs.number, index: turns.index, team: turns.teamId, pool: runners.poolId },
      day: toDayNumber(context, attempts.finishedAt, firstDay),
      isThrough: inArray(attempts.outcome, LETTING_ON),
    },
    from: sql`from ${attempts} join ${turns} on ${eq(turns.id, attempts.turnId)} join ${runs} on ${eq(runs.id, turns.runId)}
      left join ${runners} on ${eq(runners.id, attempts.runnerId)}
      where ${and(isOfCycle({ cycleId: cycle.id, nodes: null }), isNotNull(attempts.finishedAt), not(attempts.isAbandoned))}
      order by ${attempts.finishedAt}, ${attempts.number}`,
  });

async function listBaseline({ db }: ReadContext, { cycle, firstDay, nodes }: Own) {
  return db
    .select({
      day: sql<number>`${baselines.day} - ${firstDay}::date`,
      team: baselines.teamId,
      turns: sql<number>`sum(${baselines.turns})::int`,
      minutes: sql<number>`sum(${baselines.minutes})::int`,
    })
    .from(baselines)
    .where(and(eq(baselines.cycleId, cycle.id), isAtNodes(nodes, baselines.nodeId)))
    .groupBy(baselines.day, baselines.teamId)
    .orderBy(asc(baselines.day));
}

const SCOPE_ACTIONS = ['scope changed', 'took a scenario over'];

async function listScopeChanges({ db, actor }: ReadContext, cycle: CycleRow, openedAt: Date): Promise<PackedCourse['scopeChanges']> {
  const firstDay = toDay(openedAt.getTime(), actor.timeZone);
  const rows = await db
    .select({ at: history.at, details: history.details })
    .from(history)
    .where(and(eq(history.subjectId, cycle.id), inArray(history.action, SCOPE_ACTIONS), gt(history.at, openedAt)))
    .orderBy(asc(history.id));
  return rows.flatMap(({ at, details }) => {
    const [before, after] = [details['before'], details['after']] as (Partial<ScopeSize> | undefined)[];
    if (before?.turns === undefined || after?.turns === undefined || before.turns === after.turns) return [];
    const minutes = before.minutes === undefined || after.minutes === undefined ? null : after.minutes - before.minutes;
    const why = typeof details['why'] === 'string' ? details['why'] : '';
    const day = Math.max(0, countDaysBetween(firstDay, toDay(at.getTime(), actor.timeZone)));
    return [{ day, at: at.toISOString(), turns: after.turns - before.turns, minutes, why }];
  });
}
