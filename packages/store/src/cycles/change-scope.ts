import { and, asc, count, countDistinct, eq, inArray, isNull, max, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ChangeScope, ScopeEffects } from '@kindred-baton/contracts/cycles/cycle';
import { isToDo } from '@kindred-baton/core/outcomes';
import { isOver } from '@kindred-baton/core/defects/defect';
import type { RunId } from '@kindred-baton/core/ids';
import { chunk } from '../chunk.ts';
import type { Context, Operation, Query } from '../operation.ts';
import { loadChains } from '../scenarios/load-chains.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { runs } from '../schema/cycles.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { scenarios } from '../schema/scenarios.ts';
import { attempts, turns } from '../schema/turns.ts';
import { changeRuns } from '../runs/change-runs.ts';
import { isRunInScope } from '../runs/in-scope.ts';
import { remakeTurns } from './change-cycles.ts';
import { findObstacles } from './find-obstacles.ts';
import { assignToLanes, planRuns, planTurns } from './plan-runs.ts';
import { lockCycle, requireCycle } from './require-cycle.ts';

/**
 * Takes runs in and out. While the cycle is planned they come and go; once it is open what is taken out stays to be read, what nobody tried of
 * it is skipped, and the change is recorded with who and why, before and after.
 */
export const changeScope: Operation<{ code: string; change: ChangeScope }, { runs: number }> = {
  right: 'run cycles',
  run: async (context, { code, change }) => {
    const cycle = await lockCycle(context, code, ['planning', 'open']);
    if (cycle.state === 'open' && change.why === '')
      throw new AppError('invalid', `Cycle ${code} is open: say why its scope is changed; that is kept with it.`);
    const before = await countScope(context, cycle);
    const dropped = await dropRuns(context, cycle, change);
    const added = await addRuns(context, cycle, change);
    const after = await countScope(context, cycle);
    await context.record({
      subject: 'cycle',
      subjectId: cycle.id,
      action: 'scope changed',
      details: { why: change.why, before, after, added, dropped },
    });
    return { runs: after.runs };
  },
};

/** As it is written into history. */
export interface ScopeSize {
  readonly runs: number;
  readonly turns: number;
  readonly minutes: number;
}

async function countScope({ db }: Context, cycle: CycleRow): Promise<ScopeSize> {
  const [row] = await db
    .select({ runs: countDistinct(runs.id), turns: count(turns.id), minutes: sql<number>`coalesce(sum(${turns.minutes}), 0)::int` })
    .from(runs)
    .leftJoin(turns, eq(turns.runId, runs.id))
    .where(and(eq(runs.cycleId, cycle.id), isRunInScope));
  return row ?? { runs: 0, turns: 0, minutes: 0 };
}

async function dropRuns(context: Context, cycle: CycleRow, { drop, why }: ChangeScope): Promise<string[]> {
  const { db } = context;
  if (drop.length === 0) return [];
  const found = await db
    .select({ id: runs.id, number: runs.number, rowName: runs.rowName, scenario: scenarios.code })
    .from(runs)
    .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
    .where(and(eq(runs.cycleId, cycle.id), inArray(runs.id, drop), isNull(runs.leftTo)))
    .orderBy(asc(runs.number));
  if (found.length < new Set(drop).size) throw new AppError('conflict', 'A chosen run is no longer in this cycle. Look again.');
  const ids = found.map(({ id }) => id);
  if (cycle.state === 'planning') {
    await db.delete(turns).where(inArray(turns.runId, ids));
    await db.delete(runs).where(inArray(runs.id, ids));
  } else {
    const left = ids.map((id) => ({ id, to: 'taken out' as const, reason: why }));
    await changeRuns(context, { scope: { runs: ids }, event: { kind: 'leave out', runs: left } });
  }
  return found.map(({ number, scenario, rowName }) => `${number} ${scenario}${rowName === null ? '' : `, ${rowName}`}`);
}

async function addRuns(context: Context, cycle: CycleRow, { add }: ChangeScope): Promise<string[]> {
  const { db } = context;
  if (add.length === 0) return [];
  const { scenarios: loaded } = await loadChains(
    context,
    add.map(({ scenarioId }) => scenarioId),
  );
  const [last] = await db
    .select({ number: max(runs.number) })
    .from(runs)
    .where(eq(runs.cycleId, cycle.id));
  const planned = planRuns(cycle.id, add, loaded, (last?.number ?? 0) + 1);
  if (cycle.state === 'open') {
    const obstacles = loaded.flatMap((item) =>
      findObstacles(
        item,
        planned.filter((run) => run.scenarioId === item.scenario.id).map(({ rowName = null, values }) => ({ rowName, values })),
        cycle.rules,
      ),
    );
    if (obstacles.length > 0)
      throw new AppError('invalid', `${obstacles[0]?.scenario}: ${obstacles[0]?.message} It cannot go into an open cycle.`, {
        details: { obstacles },
      });
  }
  for (const piece of chunk(planned)) await db.insert(runs).values(piece);
  const made = await assignToLanes(context, await planTurns(context, cycle, planned, loaded));
  for (const piece of chunk(made)) await db.insert(turns).values(piece);
  if (cycle.state === 'open') await changeRuns(context, { scope: { runs: planned.map(({ id }) => id) }, event: { kind: 'start' } });
  const codeOf = new Map(loaded.map(({ scenario }) => [scenario.id, scenario.code]));
  return planned.map(
    ({ number, scenarioId, rowName }) => `${number} ${codeOf.get(scenarioId)}${(rowName ?? null) === null ? '' : `, ${rowName}`}`,
  );
}

/** What taking runs out would set aside: said before it is done. */
export const getScopeEffects: Query<{ code: string; runs: readonly RunId[] }, ScopeEffects> = {
  right: 'read',
  read: async (context, { code, runs: ids }) => {
    const cycle = await requireCycle(context, code);
    const own = and(eq(turns.cycleId, cycle.id), inArray(turns.runId, [...ids]));
    const [turnRows, attemptRows, defectRows] = await Promise.all([
      context.db.select({ status: turns.status, minutes: turns.minutes }).from(turns).where(own),
      context.db.select({ attempts: count() }).from(attempts).innerJoin(turns, eq(turns.id, attempts.turnId)).where(own),
      context.db
        .selectDistinct({ code: defects.code, status: defects.status })
        .from(defects)
        .innerJoin(defectTurns, eq(defectTurns.defectId, defects.id))
        .innerJoin(turns, eq(turns.id, defectTurns.turnId))
        .where(own),
    ]);
    const toDo = turnRows.filter(({ status }) => isToDo(status));
    return {
      ...{ runs: ids.length, turns: turnRows.length, notTried: toDo.length, minutes: toDo.reduce((sum, { minutes }) => sum + minutes, 0) },
      attempts: attemptRows[0]?.attempts ?? 0,
      openDefects: defectRows.filter(({ status }) => !isOver(status)).map((defect) => defect.code),
    };
  },
};

/** Runs of a scenario that nobody has begun are made anew from it as it is now. */
export const takeScenario: Operation<{ code: string; scenario: string }, { runs: number }> = {
  right: 'run cycles',
  run: async (context, { code, scenario: scenarioCode }) => {
    const cycle = await lockCycle(context, code, ['open']);
    const [found] = await context.db
      .select()
      .from(scenarios)
      .where(and(eq(scenarios.programmeId, context.actor.programmeId), eq(scenarios.code, scenarioCode)));
    if (!found) throw new AppError('not found', `There is no scenario ${scenarioCode}.`);
    const rows = await context.db
      .select()
      .from(runs)
      .where(and(eq(runs.cycleId, cycle.id), eq(runs.scenarioId, found.id), isNull(runs.leftTo)));
    const { scenarios: loaded } = await loadChains(context, [found.id]);
    const obstacles = loaded.flatMap((item) => findObstacles(item, rows, cycle.rules));
    if (obstacles.length > 0)
      throw new AppError('invalid', `${scenarioCode} cannot be taken over: ${obstacles[0]?.message}`, { details: { obstacles } });
    const scope = { runs: rows.map(({ id }) => id) };
    const before = await countScope(context, cycle);
    const changed = await remakeTurns(context, cycle, { only: found.id });
    if (changed === 0) throw new AppError('conflict', `Every run of ${scenarioCode} in ${code} has begun; they stay as they are.`);
    await changeRuns(context, { scope, event: { kind: 'start' } });
    await context.record({
      subject: 'cycle',
      subjectId: cycle.id,
      action: 'took a scenario over',
      details: { scenario: scenarioCode, runs: changed, before, after: await countScope(context, cycle) },
    });
    return { runs: changed };
  },
};
