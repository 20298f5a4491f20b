import type { AttemptId, RunnerId } from '@kindred-baton/core/ids';
import { AppError } from '@kindred-baton/contracts/errors';
import { eq } from 'drizzle-orm';
import type { Query } from '../operation.ts';
import { attempts, leases } from '../schema/turns.ts';

/** By which runner an attempt is done at this moment, and whether it has ended. */
export interface Shown {
  readonly runnerId: RunnerId | null;
  readonly isOver: boolean;
}

export const findShown: Query<AttemptId, Shown> = {
  right: 'read',
  read: async ({ db }, id) => {
    const [row] = await db
      .select({ runnerId: leases.runnerId, finishedAt: attempts.finishedAt })
      .from(attempts)
      .leftJoin(leases, eq(leases.attemptId, attempts.id))
      .where(eq(attempts.id, id));
    if (!row) throw new AppError('not found', 'There is no such attempt in this programme.');
    return { runnerId: row.runnerId, isOver: row.finishedAt !== null };
  },
};
