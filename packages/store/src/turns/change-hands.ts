import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { AttemptId, PersonId } from '@kindred-baton/core/ids';
import type { Operation } from '../operation.ts';
import { changeRuns } from '../runs/change-runs.ts';
import { requireReceiver } from '../runs/require-receiver.ts';
import { attempts, leases, turns } from '../schema/turns.ts';

/** An attempt under way goes to other hands, with all that was done; who may is decided by core (turns/decide/hands.ts). A runner that did it stops. */
export const handOver: Operation<{ attemptId: AttemptId; personId: PersonId; word: string }, { done: true }> = {
  right: 'make attempts',
  run: async (context, { attemptId, personId, word }) => {
    const { db, actor } = context;
    const [known] = await db
      .select({ turnId: attempts.turnId })
      .from(attempts)
      .innerJoin(turns, and(eq(turns.id, attempts.turnId), eq(turns.programmeId, actor.programmeId)))
      .where(eq(attempts.id, attemptId));
    if (!known) throw new AppError('not found', 'There is no such attempt in this programme.');
    const to = await requireReceiver(context, personId);
    await changeRuns(context, { scope: { turns: [known.turnId] }, event: { kind: 'hand over', attempt: attemptId, to, word } });
    await db.delete(leases).where(eq(leases.attemptId, attemptId));
    return { done: true };
  },
};
