import type { PersonId, TurnId } from '@kindred-baton/core/ids';
import type { Operation } from '../operation.ts';
import { changeRuns } from '../runs/change-runs.ts';
import { requireReceiver } from '../runs/require-receiver.ts';

/** Gives a turn to somebody, with a word; who may is decided by core (turns/decide/pass.ts). */
export const passTurn: Operation<{ turnId: TurnId; personId: PersonId; word: string }, { done: true }> = {
  right: 'make attempts',
  run: async (context, { turnId, personId, word }) => {
    const to = await requireReceiver(context, personId);
    await changeRuns(context, { scope: { turns: [turnId] }, event: { kind: 'pass', turn: turnId, to, word } });
    return { done: true };
  },
};
