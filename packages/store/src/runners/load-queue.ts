import type { PersonId, TurnId } from '@kindred-baton/core/ids';
import { letsOn } from '@kindred-baton/core/outcomes';
import type { QueueTurn } from '@kindred-baton/core/runners/order-queue';
import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { loadRunnerMinutes } from '../runs/load-runner-minutes.ts';
import { attempts, leases, turns } from '../schema/turns.ts';

/** What a runner's forecast of a turn rests on. */
export interface LoadedQueue {
  readonly turns: readonly QueueTurn[];
  /** Tests that runners did before: their expected minutes are known. */
  readonly known: ReadonlySet<TurnId>;
}

/** Every turn of the runs in which a pool has something to do, with what a runner takes for it. Three queries. */
export async function loadQueue(context: Pick<ReadContext, 'db' | 'actor'>, poolId: PersonId): Promise<LoadedQueue> {
  const { db, actor } = context;
  const own = db
    .select({ id: turns.runId })
    .from(turns)
    .innerJoin(cycles, and(eq(cycles.id, turns.cycleId), inArray(cycles.state, ['open', 'closing'])))
    .where(and(eq(turns.programmeId, actor.programmeId), eq(turns.assigneeId, poolId), sql`${turns.status} not in ('passed', 'skipped')`));
  const rows = await db
    .select({
      ...{ id: turns.id, run: turns.runId, runNumber: runs.number, index: turns.index, after: turns.after, testId: turns.testId },
      ...{ state: turns.state, outcome: turns.outcome, minutes: turns.minutes, dueOn: turns.dueOn, priority: runs.priority },
      ...{ assigneeId: turns.assigneeId, openBy: attempts.personId, leased: leases.attemptId },
    })
    .from(turns)
    .innerJoin(runs, and(eq(runs.id, turns.runId), isNull(runs.leftTo)))
    .leftJoin(attempts, and(eq(attempts.turnId, turns.id), isNull(attempts.finishedAt)))
    .leftJoin(leases, eq(leases.attemptId, attempts.id))
    .where(inArray(turns.runId, own));
  const minutesOf = await loadRunnerMinutes(
    context,
    rows.filter(({ assigneeId }) => assigneeId === poolId),
  );
  return {
    turns: rows.map(({ state, outcome, assigneeId, openBy, leased, testId, minutes, ...turn }) => {
      const isThrough = state === 'done' && letsOn(outcome);
      return {
        ...turn,
        isThrough,
        isQueued: assigneeId === poolId && (state === 'ready' || state === 'waiting' || state === 'under way') && !isThrough,
        isReady: state === 'ready',
        isGivenBack: openBy === poolId && leased === null,
        minutes: assigneeId === poolId ? minutesOf.of({ testId, minutes }) : minutes,
      };
    }),
    known: new Set(rows.flatMap(({ id, testId }) => (minutesOf.isKnown(testId) ? [id] : []))),
  };
}
