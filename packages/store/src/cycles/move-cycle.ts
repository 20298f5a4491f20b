import { and, eq, isNull, notInArray } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { MoveCycle } from '@kindred-baton/contracts/cycles/cycle';
import { listCycleMoves } from '@kindred-baton/core/cycles/cycle';
import { LETTING_ON } from '@kindred-baton/core/outcomes';
import type { CycleState } from '@kindred-baton/core/cycles/cycle';
import { tellClosing } from '../runs/tell-owners.ts';
import type { Context, Operation } from '../operation.ts';
import { loadChains } from '../scenarios/load-chains.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { attempts, turns } from '../schema/turns.ts';
import { changeRuns } from '../runs/change-runs.ts';
import { remakeTurns } from './change-cycles.ts';
import { findObstacles } from './find-obstacles.ts';
import { keepBaseline } from './keep-baseline.ts';
import { lockCycle } from './require-cycle.ts';

/**
 * Moves a cycle on. Opening pins the version of each leg (the newest agreed one, or the older one that it stays with), keeps by when what was planned to be done, and refuses while something would keep a baton from arriving; closing asks
 * for every run that is not through where it goes.
 */
export const moveCycle: Operation<{ code: string } & MoveCycle, { state: CycleState }> = {
  right: 'run cycles',
  run: async (context, { code, from, to, left = [] }) => {
    const { db, now } = context;
    const cycle = await lockCycle(context, code, ['planning', 'open', 'closing', 'closed']);
    if (cycle.state !== from) throw new AppError('conflict', `Cycle ${code} is ${cycle.state} by now, not ${from}.`);
    if (!listCycleMoves(from).includes(to)) throw new AppError('invalid', `A cycle that is ${from} cannot become ${to}.`);
    if (from === 'planning') await pinCycle(context, cycle);
    if (to === 'closed') await settleLeftovers(context, cycle, left);
    await db
      .update(cycles)
      .set({ state: to, openedAt: cycle.openedAt ?? now, closedAt: to === 'closed' ? now : null })
      .where(and(eq(cycles.id, cycle.id), eq(cycles.state, from)));
    if (from === 'planning') await startRuns(context, cycle);
    if (to === 'closing') await tellClosing(context, cycle.id);
    await context.record({
      subject: 'cycle',
      subjectId: cycle.id,
      action: to === 'open' ? 'opened' : to,
      details: { from, to, left: left.length },
    });
    return { state: to };
  },
};

async function pinCycle(context: Context, cycle: CycleRow): Promise<void> {
  const runRows = await context.db.select().from(runs).where(eq(runs.cycleId, cycle.id)).orderBy(runs.number);
  const { scenarios: loaded } = await loadChains(context, [...new Set(runRows.map((run) => run.scenarioId))]);
  const obstacles = loaded.flatMap((item) =>
    findObstacles(
      item,
      runRows.filter((run) => run.scenarioId === item.scenario.id),
      cycle.rules,
    ),
  );
  if (obstacles.length > 0) {
    throw new AppError(
      'invalid',
      `Cycle ${cycle.code} cannot be opened yet: ${obstacles.length} ${obstacles.length === 1 ? 'thing stands' : 'things stand'} in the way.`,
      { details: { obstacles } },
    );
  }
  await remakeTurns(context, cycle, { areDaysKept: true });
  await keepBaseline(context, cycle.id);
}

/** The first turns are with their testers, and they are told so. */
async function startRuns(context: Context, cycle: CycleRow): Promise<void> {
  const rows = await context.db.select({ id: runs.id }).from(runs).where(eq(runs.cycleId, cycle.id));
  await changeRuns(context, { scope: { runs: rows.map(({ id }) => id) }, event: { kind: 'start' } });
}

/** Every run that is not through goes to the next cycle or is dropped with a reason; nothing is silently left. */
async function settleLeftovers(context: Context, cycle: CycleRow, left: NonNullable<MoveCycle['left']>): Promise<void> {
  const { db } = context;
  const [open, underWay] = await Promise.all([
    db
      .select({ id: runs.id, number: runs.number })
      .from(runs)
      .where(and(eq(runs.cycleId, cycle.id), notInArray(runs.outcome, LETTING_ON), isNull(runs.leftTo))),
    db
      .select({ title: turns.title })
      .from(attempts)
      .innerJoin(turns, eq(turns.id, attempts.turnId))
      .where(and(eq(turns.cycleId, cycle.id), isNull(attempts.finishedAt))),
  ]);
  if (underWay.length > 0)
    throw new AppError(
      'conflict',
      `${underWay.length === 1 ? `An attempt at ${underWay[0]?.title} is` : `${underWay.length} attempts are`} still under way in ${cycle.code}. Finish them first; nothing that was typed is lost.`,
    );
  const decided = new Map(left.map((item) => [item.runId, item]));
  const silent = open.filter(({ id }) => !decided.has(id));
  if (silent.length > 0)
    throw new AppError(
      'invalid',
      `${silent.length} ${silent.length === 1 ? 'run is' : 'runs are'} not through (${silent
        .slice(0, 5)
        .map(({ number }) => number)
        .join(', ')}${silent.length > 5 ? ', …' : ''}): say for each whether it goes to the next cycle or is dropped.`,
    );
  const unsaid = open.find(({ id }) => decided.get(id)?.to === 'dropped' && decided.get(id)?.reason === '');
  if (unsaid) throw new AppError('invalid', `Say why run ${unsaid.number} is dropped.`);
  const leaving = open.flatMap(({ id }) => {
    const item = decided.get(id);
    return item ? [{ id, to: item.to, reason: item.reason }] : [];
  });
  await changeRuns(context, { scope: { runs: leaving.map(({ id }) => id) }, event: { kind: 'leave out', runs: leaving } });
}
