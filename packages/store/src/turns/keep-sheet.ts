import { AppError } from '@kindred-baton/contracts/errors';
import type { Finished } from '@kindred-baton/contracts/turns/turn';
import type { AttemptId, TurnId } from '@kindred-baton/core/ids';
import { readFilledSheet } from '@kindred-baton/core/turns/turn-sheet';
import type { SheetLine } from '@kindred-baton/core/turns/turn-sheet';
import { createId } from '../ids.ts';
import type { Operation } from '../operation.ts';
import { lockOwnAttempt } from '../runs/own-attempt.ts';
import { finishAttempt, recordStep, startAttempt } from './make-attempts.ts';

/** A filled-in turn sheet becomes an attempt, with the same checks as in the guide; all of it or nothing. */
export const keepSheet: Operation<{ turnId: TurnId; mark: string; lines: readonly SheetLine[] }, Finished> = {
  right: 'make attempts',
  run: async (context, { turnId, mark, lines }) => {
    const id: AttemptId = createId<'attempt'>();
    await startAttempt.run(context, { turnId, id, browser: 'on paper', isFromSheet: true });
    const { steps } = await lockOwnAttempt(context, id);
    const reading = readFilledSheet({ mark, lines }, turnId, steps);
    if (!reading.ok)
      throw new AppError('invalid', `${reading.problems.map(({ message }) => message).join(' ')} Nothing was kept.`, {
        details: { problems: reading.problems.map(({ step, message }) => ({ path: step === null ? '' : `step ${step}`, message })) },
      });
    for (const { stepIndex, outcome, note, kept } of reading.steps) {
      if (outcome === null && note === '' && kept === '') continue;
      const word = { wordId: createId(), outcome, note, kept, at: context.now.toISOString() };
      await recordStep.run(context, { attemptId: id, stepIndex, word });
    }
    return finishAttempt.run(context, id);
  },
};
