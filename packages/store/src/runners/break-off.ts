import { and, desc, eq, inArray, isNotNull, lt, sql } from 'drizzle-orm';
import type { AttemptId, ProgrammeId, RunnerId, TurnId } from '@kindred-baton/core/ids';
import { LEASE_MS } from '@kindred-baton/core/runners/runner';
import type { Actor } from '../actor.ts';
import type { Store } from '../database.ts';
import { createId } from '../ids.ts';
import type { Context, Operation } from '../operation.ts';
import { perform } from '../operation.ts';
import { changeRuns } from '../runs/change-runs.ts';
import { lockScope } from '../runs/lock-runs.ts';
import { programmes } from '../schema/programmes.ts';
import { attempts, leases, stepResults } from '../schema/turns.ts';

interface Broken {
  readonly attemptId: AttemptId;
  readonly why: string;
  /** Somebody wanted it: that it happens again says nothing of the turn. */
  readonly isWanted?: boolean;
  /** Not where it was heard of meanwhile. */
  readonly onlyLate?: boolean;
}

/**
 * A runner goes on with an attempt no more: the attempt ends where it was and is kept, and the turn is given out again; where the one before was broken
 * off too, it stays blocked until somebody has looked.
 */
export async function breakOff(context: Context, { attemptId, why, isWanted = false, onlyLate = false }: Broken): Promise<void> {
  const { db, now } = context;
  const [own] = await db.select({ turnId: attempts.turnId, number: attempts.number }).from(attempts).where(eq(attempts.id, attemptId));
  if (!own) return;
  // Runs are locked before leases, here as where a runner finishes.
  await lockScope(context, { turns: [own.turnId] });
  const late = onlyLate ? lt(leases.expiresAt, now) : undefined;
  const [held] = await db
    .delete(leases)
    .where(and(eq(leases.attemptId, attemptId), late))
    .returning({ expiresAt: leases.expiresAt });
  if (!held) return;
  const isAgain = !isWanted && (await wasBrokenOff(context, own.turnId, own.number));
  const said = isAgain ? `${why} It is the second time in a row: look at it before it is tried again.` : why;
  await noteAt(context, { attemptId, note: said, heardAt: new Date(held.expiresAt.getTime() - LEASE_MS) });
  await changeRuns(context, { scope: { turns: [own.turnId] }, event: { kind: 'break off', attempt: attemptId, isAgain, why: said } });
}

async function wasBrokenOff({ db }: Context, turnId: TurnId, number: number): Promise<boolean> {
  const [before] = await db
    .select({ isAbandoned: attempts.isAbandoned, runnerId: attempts.runnerId })
    .from(attempts)
    .where(and(eq(attempts.turnId, turnId), lt(attempts.number, number), isNotNull(attempts.finishedAt)))
    .orderBy(desc(attempts.number))
    .limit(1);
  return before?.isAbandoned === true && before.runnerId !== null;
}

/** Why it stopped stands at the step where it stopped; a word of that step that was said after the runner was last heard of takes its place. */
async function noteAt(
  { db, actor }: Context,
  { attemptId, note, heardAt }: { readonly attemptId: AttemptId; readonly note: string; readonly heardAt: Date },
): Promise<void> {
  const [done] = await db
    .select({ next: sql<number>`coalesce(max(${stepResults.stepIndex}) + 1, 0)` })
    .from(stepResults)
    .where(and(eq(stepResults.attemptId, attemptId), isNotNull(stepResults.outcome)));
  await db
    .insert(stepResults)
    .values({
      ...{ attemptId, stepIndex: done?.next ?? 0, outcome: 'blocked', note, byId: actor.personId, wordId: createId() },
      recordedAt: heardAt,
    })
    .onConflictDoNothing();
}

/** Whatever these runners do now, as somebody wants it. */
export async function breakOffAll(context: Context, { runners, why }: { readonly runners: readonly RunnerId[]; readonly why: string }) {
  if (runners.length === 0) return;
  const held = await context.db
    .select({ attemptId: leases.attemptId })
    .from(leases)
    .where(inArray(leases.runnerId, [...runners]));
  for (const { attemptId } of held.sort((a, b) => (a.attemptId < b.attemptId ? -1 : 1)))
    await breakOff(context, { attemptId, why, isWanted: true });
}

const breakOffOne: Operation<Broken, { done: true }> = {
  right: 'make attempts',
  run: async (context, broken) => {
    await breakOff(context, { ...broken, onlyLate: true });
    return { done: true };
  },
};

/** Attempts of which nothing was heard for too long, in every programme: each is broken off in its pool's name. Answers how many there were. */
export async function breakOffExpired(store: Store): Promise<number> {
  const late = await store.db
    .select({
      attemptId: leases.attemptId,
      personId: attempts.personId,
      programmeId: programmes.id,
      programmeKey: programmes.key,
      programmeName: programmes.name,
      timeZone: programmes.timeZone,
      severityNames: programmes.severityNames,
    })
    .from(leases)
    .innerJoin(attempts, eq(attempts.id, leases.attemptId))
    .innerJoin(programmes, eq(programmes.id, leases.programmeId))
    .where(lt(leases.expiresAt, store.now()))
    .limit(100);
  for (const { attemptId, ...actor } of late) {
    const pool: Actor = { ...actor, programmeId: actor.programmeId as ProgrammeId, roles: ['tester'] };
    const why = `Nothing was heard of the runner for ${LEASE_MS / 1_000} s.`;
    await perform(store, pool, breakOffOne, { attemptId, why }, ['turns', 'runners']);
  }
  return late.length;
}
