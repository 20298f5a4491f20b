import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { EvidenceView } from '@kindred-baton/contracts/common';
import type { AttemptId, EvidenceId } from '@kindred-baton/core/ids';
import type { Operation, Query } from '../operation.ts';
import { evidence } from '../schema/turns.ts';
import { lockOwnAttempt } from '../runs/own-attempt.ts';

export interface NewEvidence {
  readonly id: EvidenceId;
  readonly attemptId: AttemptId;
  readonly stepIndex: number;
  readonly name: string;
  /** Told by the content, not by the name; the caller has checked that it is allowed. */
  readonly mediaType: string;
  readonly content: Buffer;
}

/** Keeps a picture or file with a step of an own attempt. The browser mints the id: sent twice, it is kept once. */
export const keepEvidence: Operation<NewEvidence, EvidenceView> = {
  right: 'make attempts',
  run: async (context, { id, attemptId, stepIndex, name, mediaType, content }) => {
    const { db, actor, now } = context;
    const { steps, turn } = await lockOwnAttempt(context, attemptId);
    if (!steps[stepIndex]) throw new AppError('invalid', `This test has no step ${stepIndex + 1}.`);
    const size = content.byteLength;
    const kept = await db
      .insert(evidence)
      .values({
        ...{ id, attemptId, stepIndex, name, mediaType, content, size },
        programmeId: actor.programmeId,
        addedBy: actor.personId,
        addedAt: now,
      })
      .onConflictDoNothing({ target: evidence.id })
      .returning({ id: evidence.id });
    if (kept.length > 0) {
      await context.record({
        subject: 'turn',
        subjectId: turn.id,
        action: 'evidence added',
        details: { attempt: attemptId, step: stepIndex + 1, name, size },
      });
    }
    return { id, stepIndex, name, mediaType, size };
  },
};

export const getEvidence: Query<EvidenceId, { name: string; mediaType: string; content: Buffer }> = {
  right: 'read',
  read: async ({ db, actor }, id) => {
    const [file] = await db
      .select({ name: evidence.name, mediaType: evidence.mediaType, content: evidence.content })
      .from(evidence)
      .where(and(eq(evidence.id, id), eq(evidence.programmeId, actor.programmeId)));
    if (!file) throw new AppError('not found', 'There is no such file in this programme.');
    return file;
  },
};

/** Takes a picture back while the attempt is under way: what was drawn over or blurred must not stay beneath. */
export const dropEvidence: Operation<EvidenceId, { done: true }> = {
  right: 'make attempts',
  run: async (context, id) => {
    const { db, actor } = context;
    const [file] = await db
      .select({ attemptId: evidence.attemptId, name: evidence.name, stepIndex: evidence.stepIndex })
      .from(evidence)
      .where(and(eq(evidence.id, id), eq(evidence.programmeId, actor.programmeId)));
    if (!file) throw new AppError('not found', 'There is no such file in this programme.');
    const { attempt, turn } = await lockOwnAttempt(context, file.attemptId);
    if (attempt.finishedAt) throw new AppError('conflict', 'This attempt is finished; what belongs to it is kept.');
    await db.delete(evidence).where(eq(evidence.id, id));
    await context.record({
      subject: 'turn',
      subjectId: turn.id,
      action: 'evidence taken back',
      details: { attempt: attempt.id, step: file.stepIndex + 1, name: file.name },
    });
    return { done: true };
  },
};
