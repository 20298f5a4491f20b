import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { AttemptId } from '@kindred-baton/core/ids';
import type { Operation, Query } from '../operation.ts';
import { lockOwnAttempt } from '../runs/own-attempt.ts';
import { attempts, captures, turns } from '../schema/turns.ts';

interface CapturePlace {
  readonly attemptId: AttemptId;
  readonly stepIndex: number;
}

/** Keeps the screen of a step as data; said again it takes the place of what was said. */
export const keepCapture: Operation<CapturePlace & { readonly content: Buffer }, { done: true }> = {
  right: 'make attempts',
  run: async (context, { attemptId, stepIndex, content }) => {
    const { steps } = await lockOwnAttempt(context, attemptId);
    if (!steps[stepIndex]) throw new AppError('invalid', `This test has no step ${stepIndex + 1}.`);
    await context.db
      .insert(captures)
      .values({ attemptId, stepIndex, content })
      .onConflictDoUpdate({ target: [captures.attemptId, captures.stepIndex], set: { content } });
    return { done: true };
  },
};

/** As gzip. */
export const getCapture: Query<CapturePlace, Buffer> = {
  right: 'read',
  read: async ({ db, actor }, { attemptId, stepIndex }) => {
    const [found] = await db
      .select({ content: captures.content })
      .from(captures)
      .innerJoin(attempts, eq(attempts.id, captures.attemptId))
      .innerJoin(turns, and(eq(turns.id, attempts.turnId), eq(turns.programmeId, actor.programmeId)))
      .where(and(eq(captures.attemptId, attemptId), eq(captures.stepIndex, stepIndex)));
    if (!found) throw new AppError('not found', 'No screen was kept of this step.');
    return found.content;
  },
};
