import { and, asc, desc, eq, isNotNull, isNull } from 'drizzle-orm';
import type { CyclePlanView, PackedPlan } from '@kindred-baton/contracts/cycles/plan';
import { toDay } from '@kindred-baton/core/time/calendar';
import { countDaysBetween } from '@kindred-baton/core/time/work-days';
import { DAY_MINUTES } from '@kindred-baton/core/time/working-time';
import { packRows } from '@kindred-baton/core/tables/pack-rows';
import type { Query, ReadContext } from '../operation.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { runs } from '../schema/cycles.ts';
import { scenarios } from '../schema/scenarios.ts';
import { attempts, turns } from '../schema/turns.ts';
import { loadRunnerMinutes } from '../runs/load-runner-minutes.ts';
import { loadLanes } from './load-lanes.ts';
import { loadPlanPools } from './load-plan-pools.ts';
import { requireCycle } from './require-cycle.ts';
import { toWallClock } from './to-wall-clock.ts';

/** The cycle's work, people and days, as its plan is computed from. */
export const getPlan: Query<string, CyclePlanView> = {
  right: 'read',
  read: async (context, code) => loadPlan(context, await requireCycle(context, code)),
};

const REPEATED = ['run', 'team', 'person', 'status', 'dueOn', 'doneOn', 'doneBy', 'title'] as const;

/** The same as it crosses to a browser. */
export const getPackedPlan: Query<string, PackedPlan> = {
  right: 'read',
  read: async (context, code) => {
    const { turns: all, ...plan } = await getPlan.read(context, code);
    return { ...plan, turns: packRows(all, REPEATED) };
  },
};

/** So long after its end a cycle that does not fit is still planned. */
const DAYS_BEHIND = 200;
const MOST_DAYS = 500;

/** Seven queries; people are those of the lanes who test. */
export async function loadPlan(context: Pick<ReadContext, 'db' | 'actor' | 'now'>, cycle: CycleRow): Promise<CyclePlanView> {
  const now = toWallClock(context.now, context.actor.timeZone);
  const hasBegun = cycle.startsOn < now.day;
  const firstDay = hasBegun ? now.day : cycle.startsOn;
  const toEnd = countDaysBetween(firstDay, cycle.endsOn);
  const days = Math.min(MOST_DAYS, Math.max(0, toEnd) + DAYS_BEHIND);
  const [lanes, [runRows, turnRows], pools] = await Promise.all([
    loadLanes(context, { firstDay, days }),
    loadRows(context, cycle),
    loadPlanPools(context, { firstDay, days }),
  ]);
  const isPools = new Set<string | null>(pools.map(({ id }) => id));
  const minutesOf = await loadRunnerMinutes(
    context,
    turnRows.filter(({ person }) => isPools.has(person)),
  );
  return {
    ...{ firstDay, startsOn: cycle.startsOn, endsOn: cycle.endsOn },
    startsAt: now.day >= cycle.startsOn ? now.minute : 0,
    endsAt: (toEnd + 1) * DAY_MINUTES,
    ...lanes,
    pools,
    runs: runRows.map(({ id, number, rowName, priority, code, name }) => ({
      id,
      number,
      priority,
      scenario: code,
      name: rowName === null ? name : `${name}, ${rowName}`,
    })),
    turns: turnRows.map(({ teamId, doneAt, testId, ...turn }) => ({
      ...turn,
      minutes: isPools.has(turn.person) ? Math.max(1, Math.ceil(minutesOf.of({ testId, minutes: turn.minutes }))) : turn.minutes,
      team: teamId ?? '',
      doneOn: doneAt === null ? null : toDay(doneAt.getTime(), context.actor.timeZone),
    })),
  };
}

function loadRows({ db }: Pick<ReadContext, 'db'>, cycle: CycleRow) {
  const lastDoer = db
    .selectDistinctOn([attempts.turnId], { turnId: attempts.turnId, personId: attempts.personId })
    .from(attempts)
    .innerJoin(turns, and(eq(turns.id, attempts.turnId), eq(turns.cycleId, cycle.id)))
    .where(isNotNull(attempts.finishedAt))
    .orderBy(attempts.turnId, desc(attempts.number))
    .as('last_doer');
  return Promise.all([
    db
      .select({
        id: runs.id,
        number: runs.number,
        rowName: runs.rowName,
        priority: runs.priority,
        code: scenarios.code,
        name: scenarios.name,
      })
      .from(runs)
      .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
      .where(and(eq(runs.cycleId, cycle.id), isNull(runs.leftTo)))
      .orderBy(asc(runs.number)),
    db
      .select({
        ...{ id: turns.id, run: turns.runId, index: turns.index, title: turns.title, teamId: turns.teamId, person: turns.assigneeId },
        testId: turns.testId,
        ...{ minutes: turns.minutes, status: turns.status, dueOn: turns.dueOn, doneAt: turns.doneAt, after: turns.after },
        doneBy: lastDoer.personId,
        ...{ waitDays: turns.waitDays, samePersonAs: turns.samePersonAs, otherPersonThan: turns.otherPersonThan },
      })
      .from(turns)
      .innerJoin(runs, and(eq(runs.id, turns.runId), isNull(runs.leftTo)))
      .leftJoin(lastDoer, eq(lastDoer.turnId, turns.id))
      .where(eq(turns.cycleId, cycle.id))
      .orderBy(asc(runs.number), asc(turns.index)),
  ]);
}
