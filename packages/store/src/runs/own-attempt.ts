import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { AttemptId } from '@kindred-baton/core/ids';
import type { Step } from '@kindred-baton/core/tests/step';
import type { Field } from '@kindred-baton/core/values/field';
import type { Context } from '../operation.ts';
import { testVersions } from '../schema/tests.ts';
import type { AttemptRow, TurnRow } from '../schema/turns.ts';
import { attempts, turns } from '../schema/turns.ts';
import { lockScope } from './lock-runs.ts';

export interface OwnAttempt {
  readonly attempt: AttemptRow;
  readonly turn: TurnRow;
  /** Of the version, or of the bare turn. */
  readonly steps: readonly Step[];
  readonly gives: readonly Field[];
}

/** The actor's own attempt, with its run locked. Somebody else's is forbidden, whatever the role. */
export async function lockOwnAttempt(context: Context, id: AttemptId): Promise<OwnAttempt> {
  const { db, actor } = context;
  const [known] = await db.select({ turnId: attempts.turnId }).from(attempts).where(eq(attempts.id, id));
  if (known) await lockScope(context, { turns: [known.turnId] });
  const [found] = await db
    .select({ attempt: attempts, turn: turns, version: testVersions })
    .from(attempts)
    .innerJoin(turns, eq(turns.id, attempts.turnId))
    .leftJoin(testVersions, eq(testVersions.id, attempts.versionId))
    .where(and(eq(attempts.id, id), eq(turns.programmeId, actor.programmeId)));
  if (!found) throw new AppError('not found', 'There is no such attempt in this programme.');
  const { attempt, turn, version } = found;
  if (attempt.personId !== actor.personId) throw new AppError('forbidden', 'This attempt is somebody else’s.');
  return { attempt, turn, steps: version?.steps ?? turn.bare?.steps ?? [], gives: version?.gives ?? turn.bare?.gives ?? [] };
}
