import type { TurnId } from '@kindred-baton/core/ids';
import type { Operation } from '../operation.ts';
import { changeRuns } from '../runs/change-runs.ts';

/** Says that what blocked a turn is out of the way; who may is decided by core (turns/decide/lift.ts). */
export const liftBlock: Operation<{ turnId: TurnId; word: string }, { done: true }> = {
  right: 'make attempts',
  run: async (context, { turnId, word }) => {
    await changeRuns(context, { scope: { turns: [turnId] }, event: { kind: 'lift', turn: turnId, word } });
    return { done: true };
  },
};
