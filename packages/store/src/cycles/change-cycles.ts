import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { CreateCycle } from '@kindred-baton/contracts/cycles/cycle';
import type { AssignableTurn } from '@kindred-baton/core/cycles/assign-turns';
import { assignTurns } from '@kindred-baton/core/cycles/assign-turns';
import { listWorkingDays } from '@kindred-baton/core/cycles/calendar';
import { CYCLE_MOVES } from '@kindred-baton/core/cycles/cycle';
import type { CycleState } from '@kindred-baton/core/cycles/cycle';
import type { PersonId } from '@kindred-baton/core/ids';
import { chunk } from '../chunk.ts';
import { createId } from '../ids.ts';
import type { Context, Operation } from '../operation.ts';
import { requireOwn } from '../programmes/require-own.ts';
import type { LoadedScenario } from '../scenarios/load-chains.ts';
import { loadChains } from '../scenarios/load-chains.ts';
import type { CycleRow, RunRow } from '../schema/cycles.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { teamMembers, teams } from '../schema/programmes.ts';
import { turns } from '../schema/turns.ts';
import { reassessRuns } from '../turns/reassess-runs.ts';
import { findObstacles } from './find-obstacles.ts';
import type { NewTurn } from './make-turns.ts';
import { keepAssignees, makeTurns } from './make-turns.ts';

/** Plans a cycle: a run for each chosen data row, a turn for each leg, each turn to the least loaded person of its lane. */
export const createCycle: Operation<CreateCycle, { code: string }> = {
  right: 'run cycles',
  run: async (context, input) => {
    const { db, actor } = context;
    await requireOwn(context, { environmentId: input.environmentId });
    const { scenarios: loaded } = await loadChains(
      context,
      input.scope.map(({ scenarioId }) => scenarioId),
    );
    const id = createId<'cycle'>();
    const { scope, ...fields } = input;
    await db.insert(cycles).values({ id, programmeId: actor.programmeId, ownerId: actor.personId, ...fields });
    const planned = planRuns(id, scope, loaded);
    for (const piece of chunk(planned)) await db.insert(runs).values(piece);
    const made = await planTurns(context, { ...fields, id }, planned, loaded);
    const assigned = await assignToLanes(context, made);
    for (const piece of chunk(assigned)) await db.insert(turns).values(piece);
    await context.record({
      subject: 'cycle',
      subjectId: id,
      action: 'planned',
      details: { code: input.code, runs: planned.length, turns: assigned.length },
    });
    context.announce('cycles');
    return { code: input.code };
  },
};

type PlannedRun = typeof runs.$inferInsert & Pick<RunRow, 'id' | 'scenarioId' | 'values'>;

function planRuns(cycleId: CycleRow['id'], scope: CreateCycle['scope'], loaded: readonly LoadedScenario[]): PlannedRun[] {
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
      planned.push({
        ...{ id: createId<'run'>(), cycleId, scenarioId, number: planned.length + 1, position: planned.length },
        ...{ rowId: row?.id ?? null, rowName: row?.name ?? null, values: row?.values ?? {}, priority: item.scenario.priority },
      });
    }
  }
  return planned;
}

async function planTurns(
  { db, actor }: Context,
  cycle: Pick<CycleRow, 'id' | 'startsOn' | 'endsOn'>,
  planned: readonly Pick<RunRow, 'id' | 'scenarioId' | 'values'>[],
  loaded: readonly LoadedScenario[],
): Promise<NewTurn[]> {
  const teamRows = await db.select().from(teams).where(eq(teams.programmeId, actor.programmeId));
  const workingDays = [...new Set(teamRows.flatMap((team) => team.workingDays))];
  const days = listWorkingDays(cycle.startsOn, cycle.endsOn, { workingDays, holidays: [] });
  const byId = new Map(loaded.map((item) => [item.scenario.id, item]));
  const plan = { cycle: { id: cycle.id, programmeId: actor.programmeId }, workingDays: days.length > 0 ? days : [cycle.endsOn] };
  return planned.flatMap((run) => {
    const item = byId.get(run.scenarioId);
    return item ? makeTurns(plan, run, item) : [];
  });
}

async function assignToLanes({ db, actor }: Context, made: readonly NewTurn[]): Promise<NewTurn[]> {
  const lanes = await db
    .select({ id: teamMembers.personId, team: teamMembers.teamId })
    .from(teamMembers)
    .innerJoin(teams, eq(teams.id, teamMembers.teamId))
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

/** Moves a cycle on. Opening pins the newest agreed versions and refuses while something would keep a baton from arriving. */
export const moveCycle: Operation<{ code: string; from: CycleState; to: CycleState }, { state: CycleState }> = {
  right: 'run cycles',
  run: async (context, { code, from, to }) => {
    const { db, actor, now } = context;
    const [cycle] = await db
      .select()
      .from(cycles)
      .where(and(eq(cycles.programmeId, actor.programmeId), eq(cycles.code, code)))
      .for('update');
    if (!cycle) throw new AppError('not found', `There is no cycle ${code}.`);
    if (cycle.state !== from) throw new AppError('conflict', `Cycle ${code} is ${cycle.state} by now, not ${from}.`);
    if (!CYCLE_MOVES[from].includes(to)) throw new AppError('invalid', `A cycle that is ${from} cannot become ${to}.`);
    if (from === 'planning') await pinCycle(context, cycle);
    await db
      .update(cycles)
      .set({ state: to, openedAt: cycle.openedAt ?? now, closedAt: to === 'closed' ? now : null })
      .where(and(eq(cycles.id, cycle.id), eq(cycles.state, from)));
    if (from === 'planning') await startRuns(context, cycle);
    await context.record({ subject: 'cycle', subjectId: cycle.id, action: to === 'open' ? 'opened' : to, details: { from, to } });
    context.announce('cycles');
    context.announce('turns');
    return { state: to };
  },
};

async function pinCycle(context: Context, cycle: CycleRow): Promise<void> {
  const { db } = context;
  const [runRows, before] = await Promise.all([
    db.select().from(runs).where(eq(runs.cycleId, cycle.id)).orderBy(runs.number),
    db.select({ runId: turns.runId, legId: turns.legId, assigneeId: turns.assigneeId }).from(turns).where(eq(turns.cycleId, cycle.id)),
  ]);
  const { scenarios: loaded } = await loadChains(context, [...new Set(runRows.map((run) => run.scenarioId))]);
  const obstacles = loaded.flatMap((item) =>
    findObstacles(
      item,
      runRows.filter((run) => run.scenarioId === item.scenario.id),
    ),
  );
  if (obstacles.length > 0) {
    throw new AppError(
      'invalid',
      `Cycle ${cycle.code} cannot be opened yet: ${obstacles.length} ${obstacles.length === 1 ? 'thing stands' : 'things stand'} in the way.`,
      {
        details: { obstacles },
      },
    );
  }
  const made = keepAssignees(await planTurns(context, cycle, runRows, loaded), before);
  await db.delete(turns).where(eq(turns.cycleId, cycle.id));
  for (const piece of chunk(await assignToLanes(context, made))) await db.insert(turns).values(piece);
}

async function startRuns(context: Context, cycle: CycleRow): Promise<void> {
  const rows = await context.db.select({ id: runs.id }).from(runs).where(eq(runs.cycleId, cycle.id));
  await reassessRuns(
    context,
    rows.map((row) => row.id),
  );
}
