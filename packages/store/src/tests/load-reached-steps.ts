import { and, eq, isNotNull, max } from 'drizzle-orm';
import type { TestVersionId } from '@kindred-baton/core/ids';
import type { ReadContext } from '../operation.ts';
import { attempts, stepResults, turns } from '../schema/turns.ts';

/** How many of its first steps some attempt has reached, for each version that somebody has tried. One query. */
export async function loadReachedSteps({ db, actor }: ReadContext, versionId?: TestVersionId): Promise<Map<TestVersionId, number>> {
  const rows = await db
    .select({ versionId: attempts.versionId, last: max(stepResults.stepIndex) })
    .from(stepResults)
    .innerJoin(attempts, eq(attempts.id, stepResults.attemptId))
    .innerJoin(turns, eq(turns.id, attempts.turnId))
    .where(
      and(
        eq(turns.programmeId, actor.programmeId),
        isNotNull(stepResults.outcome),
        isNotNull(attempts.versionId),
        versionId === undefined ? undefined : eq(attempts.versionId, versionId),
      ),
    )
    .groupBy(attempts.versionId);
  return new Map(rows.flatMap((row) => (row.versionId === null ? [] : [[row.versionId, (row.last ?? -1) + 1] as const])));
}
