import { and, eq, isNull } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ScopeItem } from '@kindred-baton/contracts/cycles/cycle';
import type { AssignableTurn } from '@kindred-baton/core/cycles/assign-turns';
import { assignTurns } from '@kindred-baton/core/cycles/assign-turns';
import { listWorkingDays, toDay } from '@kindred-baton/core/time/calendar';
import type { PersonId } from '@kindred-baton/core/ids';
import { createId } from '../ids.ts';
import type { Context } from '../operation.ts';
import type { LoadedScenario } from '../scenarios/load-chains.ts';
import type { CycleRow, RunRow } from '../schema/cycles.ts';
import type { runs } from '../schema/cycles.ts';
import { isTester } from '../programmes/is-tester.ts';
import { members, teamMembers, teams } from '../schema/programmes.ts';
import type { NewTurn } from './make-turns.ts';
import { makeTurns } from './make-turns.ts';

type PlannedRun = typeof runs.$inferInsert & Pick<RunRow, 'id' | 'scenarioId' | 'values'>;

/** A run for each chosen data row, numbered from `first`; a scenario without rows is one run. */
export function planRuns(cycleId: CycleRow['id'], scope: readonly ScopeItem[], loaded: readonly LoadedScenario[], first = 1): PlannedRun[] {
  const byId = new Map(loaded.map((item) => [item.scenario.id, item]));
  const planned: PlannedRun[] = [];
  for (const { scenarioId, rowIds } of scope) {
    const item = byId.get(scenarioId);
    if (!item) throw new AppError('invalid', 'A chosen scenario is no longer there. Choose again.');
    if (item.legs.length === 0) throw new AppError('invalid', `Scenario ${item.scenario.code} has no legs yet.`);
    const rows = item.rows.filter((row) => rowIds.includes(row.id));
    if (rows.length < rowIds.length)
      throw new AppError('invalid', `A chosen data row of ${item.scenario.code} is no longer there. Choose again.`);
    for (const row of rows.length > 0 ? rows : [null]) {
      const number = first + planned.length;
      planned.push({
        ...{ id: createId<'run'>(), cycleId, scenarioId, number, position: number },
        ...{ rowId: row?.id ?? null, rowName: row?.name ?? null, values: row?.values ?? {}, priority: item.scenario.priority },
      });
    }
  }
  return planned;
}

/** The turns of runs, with nobody yet. What is taken in after the first day is due from today on. */
export async function planTurns(
  { db, actor, now }: Context,
  cycle: Pick<CycleRow, 'id' | 'startsOn' | 'endsOn' | 'rules'>,
  planned: readonly Pick<RunRow, 'id' | 'scenarioId' | 'values'>[],
  loaded: readonly LoadedScenario[],
): Promise<NewTurn[]> {
  const teamRows = await db.select().from(teams).where(eq(teams.programmeId, actor.programmeId));
  const workingDays = [...new Set(teamRows.flatMap((team) => team.workingDays))];
  const today = toDay(now.getTime(), actor.timeZone);
  const from = today > cycle.startsOn ? today : cycle.startsOn;
  const days = listWorkingDays(from, cycle.endsOn, { workingDays, holidays: [] });
  const byId = new Map(loaded.map((item) => [item.scenario.id, item]));
  const plan = {
    cycle: { id: cycle.id, programmeId: actor.programmeId },
    openLegs: cycle.rules.openLegs,
    workingDays: days.length > 0 ? days : [from > cycle.endsOn ? from : cycle.endsOn],
  };
  return planned.flatMap((run) => {
    const item = byId.get(run.scenarioId);
    return item ? makeTurns(plan, run, item) : [];
  });
}

/** Turns with nobody go to the people of their lanes. */
export async function assignToLanes({ db, actor }: Context, made: readonly NewTurn[]): Promise<NewTurn[]> {
  const lanes = await db
    .select({ id: teamMembers.personId, team: teamMembers.teamId })
    .from(teamMembers)
    .innerJoin(teams, eq(teams.id, teamMembers.teamId))
    .innerJoin(
      members,
      and(eq(members.personId, teamMembers.personId), eq(members.programmeId, teams.programmeId), isNull(members.leftAt), isTester),
    )
    .where(eq(teams.programmeId, actor.programmeId))
    .orderBy(teamMembers.personId);
  const { assigneeOf } = assignTurns(
    toAssignable(made),
    lanes.map((lane) => ({ ...lane, loadMinutes: 0 })),
  );
  return made.map((turn) => ({ ...turn, assigneeId: turn.assigneeId ?? (assigneeOf.get(turn.id) as PersonId | undefined) ?? null }));
}

/** Turns with nobody yet; the same and the other person are meant within a run. */
function toAssignable(made: readonly NewTurn[]): AssignableTurn[] {
  const idAt = new Map(made.map(({ id, runId, index }) => [`${runId} ${index}`, id]));
  return made
    .filter((turn) => !turn.assigneeId)
    .map(({ id, runId, teamId, minutes, samePersonAs, otherPersonThan }) => ({
      ...{ id, team: teamId ?? '', minutes },
      samePersonAs: idAt.get(`${runId} ${samePersonAs ?? ''}`),
      otherPersonThan: (otherPersonThan ?? []).flatMap((index) => idAt.get(`${runId} ${index}`) ?? []),
    }));
}
