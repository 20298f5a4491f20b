import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { AttemptId } from '@kindred-baton/core/ids';
import type { Step } from '@kindred-baton/core/tests/step';
import type { Field } from '@kindred-baton/core/values/field';
import type { Context } from '../operation.ts';
import { pools } from '../schema/runners.ts';
import { testVersions } from '../schema/tests.ts';
import type { AttemptRow, TurnRow } from '../schema/turns.ts';
import { attempts, turns } from '../schema/turns.ts';
import { lockScope } from './lock-runs.ts';
import { requireLease } from './require-lease.ts';

export interface OwnAttempt {
  readonly attempt: AttemptRow;
  readonly turn: TurnRow;
  /** Of the version, or of the bare turn. */
  readonly steps: readonly Step[];
  readonly gives: readonly Field[];
}

/** A picture does not say when it was taken: one that comes late still belongs to its step. */
const WHENEVER = new Date(0);

/** The actor's own attempt, with its run locked. Somebody else's is forbidden, whatever the role. */
export async function lockOwnAttempt(context: Context, id: AttemptId): Promise<OwnAttempt> {
  const { isPool: _, ...own } = await lockAttempt(context, id);
  if (own.attempt.personId !== context.actor.personId) throw new AppError('forbidden', 'This attempt is somebody else’s.');
  await requireLease(context, id, WHENEVER);
  return own;
}

/** An attempt of which somebody says what is wrong: her own, or a runner's, at which a person looks. */
export async function lockSeenAttempt(context: Context, id: AttemptId): Promise<OwnAttempt> {
  const { isPool, ...seen } = await lockAttempt(context, id);
  return isPool ? seen : lockOwnAttempt(context, id);
}

async function lockAttempt(context: Context, id: AttemptId): Promise<OwnAttempt & { readonly isPool: boolean }> {
  const { db, actor } = context;
  const [known] = await db.select({ turnId: attempts.turnId }).from(attempts).where(eq(attempts.id, id));
  if (known) await lockScope(context, { turns: [known.turnId] });
  const [found] = await db
    .select({ attempt: attempts, turn: turns, version: testVersions, poolId: pools.id })
    .from(attempts)
    .innerJoin(turns, eq(turns.id, attempts.turnId))
    .leftJoin(testVersions, eq(testVersions.id, attempts.versionId))
    .leftJoin(pools, eq(pools.id, attempts.personId))
    .where(and(eq(attempts.id, id), eq(turns.programmeId, actor.programmeId)));
  if (!found) throw new AppError('not found', 'There is no such attempt in this programme.');
  const { attempt, turn, version, poolId } = found;
  const [steps, gives] = [version?.steps ?? turn.bare?.steps ?? [], version?.gives ?? turn.bare?.gives ?? []];
  return { attempt, turn, steps, gives, isPool: poolId !== null };
}
