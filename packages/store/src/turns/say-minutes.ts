import { AppError } from '@kindred-baton/contracts/errors';
import type { AttemptId } from '@kindred-baton/core/ids';
import { eq, sql } from 'drizzle-orm';
import type { Operation } from '../operation.ts';
import { lockOwnAttempt } from '../runs/own-attempt.ts';
import { cycles } from '../schema/cycles.ts';
import { saidMinutes, turns } from '../schema/turns.ts';
import { withSpent } from './spent.ts';

/** Says what an own attempt took, in minutes, or takes that back (null): then its words count again. A closed cycle's figures stay. */
export const sayMinutes: Operation<{ attemptId: AttemptId; minutes: number | null }, { done: true }> = {
  right: 'make attempts',
  run: async (context, { attemptId, minutes }) => {
    const { db, actor, now } = context;
    const { attempt, turn } = await lockOwnAttempt(context, attemptId);
    if (attempt.finishedAt === null)
      throw new AppError('conflict', 'This attempt is under way; what it took is known when it is finished.');
    const [cycle] = await db.select({ code: cycles.code, state: cycles.state }).from(cycles).where(eq(cycles.id, turn.cycleId));
    if (cycle?.state === 'closed') throw new AppError('conflict', `Cycle ${cycle.code} is closed; what was spent in it stays as it is.`);
    const { rows } = await db.execute(sql`
      ${withSpent(eq(turns.id, turn.id))} select from of_attempts where attempt = ${attemptId}::uuid and is_work`);
    if (rows.length === 0) throw new AppError('conflict', 'A runner did all of this attempt; it took nobody’s time.');
    const own = eq(saidMinutes.attemptId, attemptId);
    const [before] = await db.select({ minutes: saidMinutes.minutes }).from(saidMinutes).where(own);
    if ((before?.minutes ?? null) === minutes) return { done: true };
    await db.delete(saidMinutes).where(own);
    if (minutes !== null) await db.insert(saidMinutes).values({ programmeId: actor.programmeId, attemptId, minutes, saidAt: now });
    await context.record({
      ...{ subject: 'turn', subjectId: turn.id, action: 'said what it took' },
      details: { attempt: attempt.number, from: before?.minutes ?? null, to: minutes },
    });
    return { done: true };
  },
};
