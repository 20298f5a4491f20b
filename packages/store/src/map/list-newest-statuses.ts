import { desc, eq, inArray } from 'drizzle-orm';
import type { TestId } from '@kindred-baton/core/ids';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import { sql } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { turns } from '../schema/turns.ts';

/**
 * For each test the status of its newest turn: the one done last, else one that is still to do; of these tests, else of all of the
 * programme. One query.
 */
export async function listNewestStatuses(
  { db, actor }: Pick<ReadContext, 'db' | 'actor'>,
  testIds?: readonly TestId[],
): Promise<Map<TestId, TurnStatus>> {
  if (testIds?.length === 0) return new Map();
  const ranked = db
    .select({
      testId: turns.testId,
      status: turns.status,
      rank: sql<number>`row_number() over (partition by ${turns.testId} order by ${desc(turns.doneAt)} nulls last, ${turns.status})`.as(
        'rank',
      ),
    })
    .from(turns)
    .where(testIds ? inArray(turns.testId, [...new Set(testIds)]) : eq(turns.programmeId, actor.programmeId))
    .as('ranked');
  const rows = await db
    .select({ testId: ranked.testId, status: ranked.status })
    .from(ranked)
    .where(sql`${ranked.rank} = 1`);
  return new Map(rows.flatMap((row) => (row.testId ? [[row.testId, row.status] as const] : [])));
}
