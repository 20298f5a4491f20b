import type { CycleId } from '@kindred-baton/core/ids';
import { isLeft, TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { toDay } from '@kindred-baton/core/time/calendar';
import { and, eq, gte, inArray, lt, sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { runs } from '../schema/cycles.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { requirementTests, requirements } from '../schema/requirements.ts';
import { attempts, saidMinutes, stepResults, turns } from '../schema/turns.ts';

/** Which turns of some cycles have a value. A value that there is none of finds none. */
export type TurnFilter = (context: ReadContext, value: string, cycleIds: readonly CycleId[]) => SQL | undefined | Promise<SQL | undefined>;

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

/** People have tried it to the end, whoever ended it; the last attempt of all on this day, where one is said. *said*: where somebody said what an attempt took. What such turns took is spent.ts. */
export const bySpent: TurnFilter = ({ actor }, of) =>
  and(
    sql`exists (select from ${attempts} where ${attempts.turnId} = ${turns.id} and ${attempts.finishedAt} is not null and (${attempts.runnerId} is null
      or exists (select from ${stepResults} where ${stepResults.attemptId} = ${attempts.id} and ${stepResults.runnerId} is null
        and ${stepResults.outcome} is not null and ${stepResults.recordedAt} between ${attempts.startedAt} and ${attempts.finishedAt})))`,
    of === 'yes' || of === 'said'
      ? undefined
      : sql`(select (max(${attempts.finishedAt}) at time zone ${actor.timeZone})::date from ${attempts} where ${attempts.turnId} = ${turns.id}) = ${of}::date`,
    of === 'said'
      ? sql`exists (select from ${attempts} join ${saidMinutes} on ${saidMinutes.attemptId} = ${attempts.id} where ${attempts.turnId} = ${turns.id})`
      : undefined,
  );

export const byDoneSince: TurnFilter = (_, since) => gte(turns.doneAt, new Date(since));
export const byReadySince: TurnFilter = (_, since) => gte(turns.readyAt, new Date(since));

export const byRun: TurnFilter = ({ db }, number, cycleIds) =>
  inArray(
    turns.runId,
    db
      .select({ id: runs.id })
      .from(runs)
      .where(and(inArray(runs.cycleId, [...cycleIds]), eq(runs.number, Number(number)))),
  );

export function amongIds(column: typeof turns.nodeId | typeof turns.id, ids: readonly string[]): SQL {
  return ids.length > 0 ? inArray(column as typeof turns.id, ids as (typeof turns.$inferSelect.id)[]) : sql`false`;
}
