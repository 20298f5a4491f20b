import { AppError } from '@kindred-baton/contracts/errors';
import type { Heard } from '@kindred-baton/contracts/runners/runner';
import type { AttemptId, TurnId } from '@kindred-baton/core/ids';
import type { RunnerOrder } from '@kindred-baton/core/runners/runner';
import { LEASE_MS } from '@kindred-baton/core/runners/runner';
import { orderQueue } from '@kindred-baton/core/runners/order-queue';
import { isPoolOpen } from '@kindred-baton/core/runners/pool-hours';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { createId } from '../ids.ts';
import type { Context, Operation, Query } from '../operation.ts';
import { lockScope } from '../runs/lock-runs.ts';
import { pools } from '../schema/runners.ts';
import { attempts, leases, stepResults, turns } from '../schema/turns.ts';
import { startAttempt } from '../turns/make-attempts.ts';
import { meetRunner } from './hear-runner.ts';
import { loadQueue } from './load-queue.ts';

/** The turns of the actor's pool that can be begun now, in the order in which they are handed out. */
export const listReady: Query<void, TurnId[]> = {
  right: 'make attempts',
  read: async (context) => {
    const { turns: all } = await loadQueue(context, context.actor.personId);
    return orderQueue(all).flatMap(({ id, isReady, isGivenBack }) => (isReady || isGivenBack ? [id] : []));
  },
};

export interface TakeTurn {
  readonly about: Pick<Heard, 'instance' | 'machine' | 'sessions'>;
  /** What is ready, in order (`listReady`); what is taken or gone meanwhile is passed over. */
  readonly ready: readonly TurnId[];
  readonly browser: string;
}

export interface Taken {
  readonly order: RunnerOrder;
  readonly taken: { readonly turnId: TurnId; readonly attemptId: AttemptId; readonly fromStep: number } | null;
  /** Turns that were looked at and can not be begun: not asked for again. */
  readonly over: readonly TurnId[];
}

/** A runner takes the next turn: its attempt begins, or goes on where its rest was given back, and is the runner's for as long as it is heard of. */
export const takeTurn: Operation<TakeTurn, Taken> = {
  right: 'make attempts',
  run: async (context, { about, ready, browser }) => {
    const { db, actor, now } = context;
    const runner = await meetRunner(context, about);
    const [pool] = await db.select().from(pools).where(eq(pools.id, runner.poolId));
    const isOpen = pool !== undefined && isPoolOpen(pool, now.getTime(), actor.timeZone);
    if (runner.order !== 'work' || !isOpen) return { order: runner.order, taken: null, over: [] };
    const over: TurnId[] = [];
    for (const turnId of ready) {
      const begun = await begin(context, turnId, browser);
      over.push(turnId);
      if (!begun) continue;
      const expiresAt = new Date(now.getTime() + LEASE_MS);
      await db.execute(sql`
        with leased as (
          insert into ${leases} (attempt_id, runner_id, taken_at, expires_at, step_index)
          values (${begun.attemptId}, ${runner.id}, ${now}, ${expiresAt}, ${begun.fromStep})
        )
        update ${attempts} set runner_id = ${runner.id} where id = ${begun.attemptId}`);
      context.tell(['turns', 'runners']);
      return { order: runner.order, taken: { turnId, ...begun }, over };
    }
    return { order: runner.order, taken: null, over };
  },
};

async function begin(context: Context, turnId: TurnId, browser: string): Promise<{ attemptId: AttemptId; fromStep: number } | undefined> {
  const { actor } = context;
  const turn = await readTurn(context, turnId);
  if (!turn || turn.assigneeId !== actor.personId) return undefined;
  if (turn.open) return goOn(context, turnId);
  if (turn.state !== 'ready') return undefined;
  const attemptId = createId<'attempt'>();
  try {
    // What was read is looked at again there, with the run locked.
    await startAttempt.run(context, { turnId, id: attemptId, browser, mustBeWith: actor.personId });
  } catch (error) {
    // By the rules of its cycle this pool may not begin it: others come first, and whoever looks at the queue sees it wait.
    if (error instanceof AppError && error.code === 'conflict') return undefined;
    throw error;
  }
  return { attemptId, fromStep: 0 };
}

/** Its rest was given back: the attempt goes on. */
async function goOn(context: Context, turnId: TurnId): Promise<{ attemptId: AttemptId; fromStep: number } | undefined> {
  await lockScope(context, { turns: [turnId] });
  const turn = await readTurn(context, turnId);
  const { personId } = context.actor;
  if (!turn?.open || turn.assigneeId !== personId || turn.openBy !== personId || turn.leased) return undefined;
  return { attemptId: turn.open, fromStep: await findNextStep(context, turn.open) };
}

async function readTurn({ db, actor }: Context, turnId: TurnId) {
  const [turn] = await db
    .select({ state: turns.state, assigneeId: turns.assigneeId, open: attempts.id, openBy: attempts.personId, leased: leases.attemptId })
    .from(turns)
    .leftJoin(attempts, and(eq(attempts.turnId, turns.id), isNull(attempts.finishedAt)))
    .leftJoin(leases, eq(leases.attemptId, attempts.id))
    .where(and(eq(turns.id, turnId), eq(turns.programmeId, actor.programmeId)));
  return turn;
}

/** The first step at which nothing has been said. */
async function findNextStep({ db }: Context, attemptId: AttemptId): Promise<number> {
  const said = await db
    .select({ index: stepResults.stepIndex, outcome: stepResults.outcome })
    .from(stepResults)
    .where(eq(stepResults.attemptId, attemptId));
  const done = new Set(said.flatMap(({ index, outcome }) => (outcome === null ? [] : [index])));
  let next = 0;
  while (done.has(next)) next += 1;
  return next;
}
