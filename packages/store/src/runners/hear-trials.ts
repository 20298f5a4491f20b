import { and, eq, inArray, isNull } from 'drizzle-orm';
import type { AttemptId, RunnerId } from '@kindred-baton/core/ids';
import { HANDED_OUT_MS, LEASE_MS } from '@kindred-baton/core/runners/runner';
import type { Context } from '../operation.ts';
import { trials } from '../schema/runners.ts';

/** Which of some numbers are trials that this runner does, kept for as long as it is heard of; those that it has left end there. */
export async function hearTrials({ db, now }: Context, runnerId: RunnerId, named: readonly AttemptId[]): Promise<ReadonlySet<AttemptId>> {
  const open = and(eq(trials.runnerId, runnerId), isNull(trials.finishedAt));
  const rows = await db.select({ id: trials.id, takenAt: trials.takenAt }).from(trials).where(open);
  if (rows.length === 0) return new Set();
  const known = new Set<string>(named);
  const kept = rows.filter(({ id }) => known.has(id));
  const left = rows.filter(({ id, takenAt }) => !known.has(id) && now.getTime() - (takenAt?.getTime() ?? 0) > HANDED_OUT_MS);
  const ids = (list: typeof rows) =>
    inArray(
      trials.id,
      list.map(({ id }) => id),
    );
  if (kept.length > 0)
    await db
      .update(trials)
      .set({ expiresAt: new Date(now.getTime() + LEASE_MS) })
      .where(ids(kept));
  if (left.length > 0) await db.update(trials).set({ finishedAt: now }).where(ids(left));
  return new Set(kept.map(({ id }) => id as unknown as AttemptId));
}
