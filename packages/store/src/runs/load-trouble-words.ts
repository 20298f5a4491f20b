import type { TurnId } from '@kindred-baton/core/ids';
import { and, asc, desc, eq, inArray, isNotNull } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { attempts, stepResults } from '../schema/turns.ts';

/** What was said at the step at which the newest attempt of each of these turns failed or was blocked. One query. */
export async function loadTroubleWords({ db }: Pick<ReadContext, 'db'>, turnIds: readonly TurnId[]): Promise<Map<TurnId, string>> {
  if (turnIds.length === 0) return new Map();
  const rows = await db
    .selectDistinctOn([attempts.turnId], { turnId: attempts.turnId, note: stepResults.note })
    .from(attempts)
    .innerJoin(stepResults, and(eq(stepResults.attemptId, attempts.id), inArray(stepResults.outcome, ['failed', 'blocked'])))
    .where(and(inArray(attempts.turnId, [...turnIds]), isNotNull(attempts.finishedAt)))
    .orderBy(attempts.turnId, desc(attempts.number), asc(stepResults.stepIndex));
  return new Map(rows.map(({ turnId, note }) => [turnId, note]));
}
