import { NONE } from '@kindred-baton/contracts/turns/turn';
import type { CycleId } from '@kindred-baton/core/ids';
import { isLeft, TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { toDay } from '@kindred-baton/core/time/calendar';
import { and, eq, gte, inArray, isNull, lt, or, sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { ReadContext } from '../operation.ts';
import { runs } from '../schema/cycles.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { people } from '../schema/people.ts';
import { applications, teams } from '../schema/programmes.ts';
import { requirementTests, requirements } from '../schema/requirements.ts';
import { scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import { attempts, turns } from '../schema/turns.ts';

/** Which turns of a cycle have a value. A value that there is none of finds none. */
export type TurnFilter = (context: ReadContext, value: string, cycleId: CycleId) => SQL | undefined | Promise<SQL | undefined>;

export const byNode: TurnFilter = async (context, code) => amongIds(turns.nodeId, listSubtree(await loadTree(context), code));

export const byTeam: TurnFilter = ({ db, actor }, name) =>
  name === NONE
    ? isNull(turns.teamId)
    : inArray(
        turns.teamId,
        db
          .select({ id: teams.id })
          .from(teams)
          .where(and(eq(teams.programmeId, actor.programmeId), eq(teams.name, name))),
      );

export const byPerson: TurnFilter = ({ db }, name) =>
  name === NONE
    ? isNull(turns.assigneeId)
    : inArray(turns.assigneeId, db.select({ id: people.id }).from(people).where(eq(people.name, name)));

export const byApplication: TurnFilter = ({ db, actor }, name) => {
  const among = name === NONE ? isNull(tests.applicationId) : eq(applications.name, name);
  const found = db
    .select({ id: tests.id })
    .from(tests)
    .leftJoin(applications, eq(applications.id, tests.applicationId))
    .where(and(eq(tests.programmeId, actor.programmeId), among));
  return name === NONE ? or(isNull(turns.testId), inArray(turns.testId, found)) : inArray(turns.testId, found);
};

export const byPriority: TurnFilter = ({ db }, priority, cycleId) =>
  inArray(
    turns.runId,
    db
      .select({ id: runs.id })
      .from(runs)
      .where(and(eq(runs.cycleId, cycleId), sql`${runs.priority}::text = ${priority}`)),
  );

export const byTest: TurnFilter = ({ db, actor }, code) =>
  inArray(
    turns.testId,
    db
      .select({ id: tests.id })
      .from(tests)
      .where(and(eq(tests.programmeId, actor.programmeId), eq(tests.code, code))),
  );

/** Turns of the tests that serve a requirement. */
export const byRequirement: TurnFilter = ({ db, actor }, code) =>
  inArray(
    turns.testId,
    db
      .select({ id: requirementTests.testId })
      .from(requirementTests)
      .innerJoin(requirements, eq(requirements.id, requirementTests.requirementId))
      .where(and(eq(requirements.programmeId, actor.programmeId), eq(requirements.code, code))),
  );

/** Turns at which a defect was seen. */
export const byDefect: TurnFilter = ({ db, actor }, code) =>
  inArray(
    turns.id,
    db
      .select({ id: defectTurns.turnId })
      .from(defectTurns)
      .innerJoin(defects, eq(defects.id, defectTurns.defectId))
      .where(and(eq(defects.programmeId, actor.programmeId), eq(defects.code, code))),
  );

/** Due before today, and not over. */
export const isLate = ({ actor, now }: Pick<ReadContext, 'actor' | 'now'>): SQL | undefined =>
  and(lt(turns.dueOn, toDay(now.getTime(), actor.timeZone)), inArray(turns.status, TURN_STATUSES.filter(isLeft)));

/** An attempt at it ended on this day of the programme, and was not left behind by its maker. */
export const byDayTried: TurnFilter = ({ actor }, day) =>
  sql`exists (select from ${attempts} where ${attempts.turnId} = ${turns.id} and not ${attempts.isAbandoned}
    and (${attempts.finishedAt} at time zone ${actor.timeZone})::date = ${day}::date)`;

export const byDoneSince: TurnFilter = (_, since) => gte(turns.doneAt, new Date(since));
export const byReadySince: TurnFilter = (_, since) => gte(turns.readyAt, new Date(since));

export const byScenario: TurnFilter = ({ db, actor }, code) =>
  inArray(
    turns.runId,
    db
      .select({ id: runs.id })
      .from(runs)
      .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
      .where(and(eq(scenarios.programmeId, actor.programmeId), eq(scenarios.code, code))),
  );

export const byRun: TurnFilter = ({ db }, number, cycleId) =>
  inArray(
    turns.runId,
    db
      .select({ id: runs.id })
      .from(runs)
      .where(and(eq(runs.cycleId, cycleId), eq(runs.number, Number(number)))),
  );

export function amongIds(column: typeof turns.nodeId | typeof turns.id, ids: readonly string[]): SQL {
  return ids.length > 0 ? inArray(column as typeof turns.id, ids as (typeof turns.$inferSelect.id)[]) : sql`false`;
}
