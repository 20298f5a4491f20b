import { AppError } from '@kindred-baton/contracts/errors';
import type { AttemptId } from '@kindred-baton/core/ids';
import { eq } from 'drizzle-orm';
import type { Context } from '../operation.ts';
import { attempts, leases } from '../schema/turns.ts';

/**
 * A runner speaks only of what is its own now; what it saw before its attempt was broken off still counts when it comes late. People need no lease.
 * Called with the run locked.
 */
export async function requireLease({ db, actor }: Pick<Context, 'db' | 'actor'>, attemptId: AttemptId, seenAt?: Date): Promise<void> {
  if (!actor.runnerId) return;
  const [own] = await db
    .select({ holder: leases.runnerId, maker: attempts.runnerId, isAbandoned: attempts.isAbandoned, finishedAt: attempts.finishedAt })
    .from(attempts)
    .leftJoin(leases, eq(leases.attemptId, attempts.id))
    .where(eq(attempts.id, attemptId));
  if (own?.holder === actor.runnerId) return;
  const isLate = own?.isAbandoned === true && own.maker === actor.runnerId && own.finishedAt !== null;
  if (isLate && seenAt && seenAt <= own.finishedAt!) return;
  throw new AppError('conflict', 'This attempt is not with this runner any more.');
}
