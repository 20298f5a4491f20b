import { and, eq, isNotNull, isNull, lte, or } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { Heard, Orders } from '@kindred-baton/contracts/runners/runner';
import { HANDED_OUT_MS, LEASE_MS } from '@kindred-baton/core/runners/runner';
import type { AttemptId } from '@kindred-baton/core/ids';
import type { Context, Operation } from '../operation.ts';
import type { RunnerRow } from '../schema/runners.ts';
import { runners } from '../schema/runners.ts';
import { leases } from '../schema/turns.ts';
import { breakOff, breakOffAll } from './break-off.ts';
import { hearTrials } from './hear-trials.ts';

/** A runner says that it is there and what it does; it hears what it is told, and which of its attempts are its own no more. */
export const hearRunner: Operation<Heard, Orders> = {
  right: 'make attempts',
  run: async (context, { working, ...about }) => {
    const { db, now } = context;
    const runner = await meetRunner(context, about);
    const held = await db.select().from(leases).where(eq(leases.runnerId, runner.id));
    const named = new Set(working.map(({ attempt }) => attempt));
    const lost = held.filter(({ attemptId, takenAt }) => !named.has(attemptId) && now.getTime() - takenAt.getTime() > HANDED_OUT_MS);
    for (const { attemptId } of lost) await breakOff(context, { attemptId, why: 'The runner left it in the middle.' });
    const stepOf = new Map(held.map(({ attemptId, stepIndex }) => [attemptId, stepIndex]));
    const kept = working.filter(({ attempt }) => stepOf.has(attempt));
    const isNews = kept.some(({ attempt, step }) => stepOf.get(attempt) !== step);
    if (isNews || runner.problem !== about.problem || isQuiet(runner, now)) context.tell(['runners']);
    if (lost.length > 0) context.tell(['turns']);
    for (const { attempt, step } of kept)
      await db
        .update(leases)
        .set({ expiresAt: new Date(now.getTime() + LEASE_MS), stepIndex: step })
        .where(eq(leases.attemptId, attempt));
    const trying = await hearTrials(context, runner.id, [...named]);
    const isOwn = (attempt: AttemptId) => stepOf.has(attempt) || trying.has(attempt);
    return { order: runner.order, stop: working.filter(({ attempt }) => !isOwn(attempt)).map(({ attempt }) => attempt) };
  },
};

const isQuiet = ({ heardAt }: Pick<RunnerRow, 'heardAt'>, now: Date) => heardAt === null || now.getTime() - heardAt.getTime() >= LEASE_MS;

/**
 * Notes what the runner says of itself. One token is one machine: while its process is heard of, another with the same token is refused. An actor
 * without a runner is refused too.
 */
export async function meetRunner(
  { db, actor, now }: Context,
  about: Pick<Heard, 'instance' | 'machine' | 'sessions'> & { readonly problem?: string },
) {
  if (!actor.runnerId) throw new AppError('forbidden', 'This is asked by runners alone.');
  const { instance, machine, sessions, problem } = about;
  const before = db
    .select({ heardAt: runners.heardAt, problem: runners.problem })
    .from(runners)
    .where(eq(runners.id, actor.runnerId))
    .as('before');
  const quietBefore = new Date(now.getTime() - LEASE_MS);
  const isFree = or(isNull(runners.instance), eq(runners.instance, instance), isNull(runners.heardAt), lte(runners.heardAt, quietBefore));
  // The busiest question of all: one statement where nothing is the matter.
  const [met] = await db
    .update(runners)
    .set({ instance, machine, sessions, heardAt: now, ...(problem === undefined ? {} : { problem }) })
    .from(before)
    .where(and(eq(runners.id, actor.runnerId), isNotNull(runners.tokenHash), isFree))
    .returning({ id: runners.id, poolId: runners.poolId, order: runners.order, heardAt: before.heardAt, problem: before.problem });
  if (met) return met;
  const [runner] = await db.select().from(runners).where(eq(runners.id, actor.runnerId));
  if (!runner || runner.tokenHash === null) throw new AppError('not signed in', 'This token was withdrawn.');
  const sinceMs = now.getTime() - (runner.heardAt?.getTime() ?? 0);
  throw new AppError(
    'conflict',
    `The token of ${runner.name} is used by another process on ${runner.machine}, heard of ${Math.round(sinceMs / 1_000)} s ago. Each runner has a token of its own: add another runner, or wait ${LEASE_MS / 1_000} s after that one ended.`,
  );
}

/** A runner that ends says so: what it did is given out again, and another process may come at once. */
export const partRunner: Operation<Pick<Heard, 'instance'>, { done: true }> = {
  right: 'make attempts',
  run: async (context, { instance }) => {
    const { db, actor } = context;
    if (!actor.runnerId) throw new AppError('forbidden', 'This is asked by runners alone.');
    const own = and(eq(runners.id, actor.runnerId), eq(runners.instance, instance));
    const [runner] = await db.update(runners).set({ instance: null }).where(own).returning({ id: runners.id });
    if (runner) await breakOffAll(context, { runners: [runner.id], why: 'The runner was ended.' });
    return { done: true };
  },
};
