import { and, asc, desc, eq, gte, isNotNull, isNull } from 'drizzle-orm';
import type { CyclePlanView, PackedPlan } from '@kindred-baton/contracts/cycles/plan';
import { toDay } from '@kindred-baton/core/time/calendar';
import { countDaysBetween, DAY_BEGINS, listWorkMinutes } from '@kindred-baton/core/time/work-days';
import { DAY_MINUTES } from '@kindred-baton/core/time/working-time';
import { packRows } from '@kindred-baton/core/tables/pack-rows';
import { pushTo } from '@kindred-baton/core/push-to';
import type { PersonId } from '@kindred-baton/core/ids';
import type { Query, ReadContext } from '../operation.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { runs } from '../schema/cycles.ts';
import { people } from '../schema/people.ts';
import { isTester } from '../programmes/is-tester.ts';
import { absences, members, teamMembers, teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { attempts, turns } from '../schema/turns.ts';
import { loadRunnerMinutes } from '../runs/load-runner-minutes.ts';
import { loadPlanPools } from './load-plan-pools.ts';
import { requireCycle } from './require-cycle.ts';

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
  const [[teamRows, personRows, awayRows, runRows, turnRows], pools] = await Promise.all([
    loadRows(context, cycle, firstDay),
    loadPlanPools(context, { firstDay, days }),
  ]);
  const isPools = new Set<string | null>(pools.map(({ id }) => id));
  const minutesOf = await loadRunnerMinutes(
    context,
    turnRows.filter(({ person }) => isPools.has(person)),
  );
  const hoursOf = new Map(teamRows.map((team) => [team.id, team]));
  const awayOf = new Map<PersonId, typeof awayRows>();
  for (const away of awayRows) pushTo(awayOf, away.personId, away);
  const rowsOf = new Map<PersonId, typeof personRows>();
  for (const row of personRows) pushTo(rowsOf, row.id, row);
  return {
    ...{ firstDay, startsOn: cycle.startsOn, endsOn: cycle.endsOn },
    startsAt: now.day >= cycle.startsOn ? now.minute : 0,
    endsAt: (toEnd + 1) * DAY_MINUTES,
    teams: teamRows.map((team) => ({
      ...{ id: team.id, name: team.name, hoursPerDay: team.hoursPerDay, startsAt: DAY_BEGINS },
      minutesByDay: listWorkMinutes(firstDay, days, team),
    })),
    people: [...rowsOf].flatMap(([id, own]) => {
      const [first] = own;
      const team = first && hoursOf.get(first.teamId);
      if (!team) return [];
      const away = awayOf.get(id) ?? [];
      const hours = { ...team, hoursPerDay: first.hoursPerDay ?? team.hoursPerDay };
      return [
        {
          ...{ id, name: first.name, teams: own.map(({ teamId }) => teamId as string), startsAt: DAY_BEGINS },
          minutesByDay: listWorkMinutes(firstDay, days, hours, away),
          absences: away.map(({ firstDay: from, lastDay, note }) => ({ firstDay: from, lastDay, note })),
        },
      ];
    }),
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

function loadRows({ db, actor }: Pick<ReadContext, 'db' | 'actor'>, cycle: CycleRow, firstDay: string) {
  const here = actor.programmeId;
  const lastDoer = db
    .selectDistinctOn([attempts.turnId], { turnId: attempts.turnId, personId: attempts.personId })
    .from(attempts)
    .innerJoin(turns, and(eq(turns.id, attempts.turnId), eq(turns.cycleId, cycle.id)))
    .where(isNotNull(attempts.finishedAt))
    .orderBy(attempts.turnId, desc(attempts.number))
    .as('last_doer');
  return Promise.all([
    db.select().from(teams).where(eq(teams.programmeId, here)).orderBy(asc(teams.position), asc(teams.name)),
    db
      .select({ id: people.id, name: people.name, teamId: teamMembers.teamId, hoursPerDay: teamMembers.hoursPerDay })
      .from(teamMembers)
      .innerJoin(teams, eq(teams.id, teamMembers.teamId))
      .innerJoin(people, eq(people.id, teamMembers.personId))
      .innerJoin(members, and(eq(members.personId, people.id), eq(members.programmeId, here), isNull(members.leftAt), isTester))
      .where(eq(teams.programmeId, here))
      .orderBy(asc(people.name), asc(teams.position)),
    db
      .select()
      .from(absences)
      .where(and(eq(absences.programmeId, here), gte(absences.lastDay, firstDay)))
      .orderBy(asc(absences.firstDay)),
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

/** A moment by the wall clock of a time zone: its day, and the minutes since midnight. */
function toWallClock(now: Date, timeZone: string): { day: string; minute: number } {
  const [hour = 0, minute = 0] = new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit', hourCycle: 'h23' })
    .format(now)
    .split(':')
    .map(Number);
  return { day: toDay(now.getTime(), timeZone), minute: hour * 60 + minute };
}
