import { eq, inArray, sql } from 'drizzle-orm';
import type { CycleId, TestId } from '@kindred-baton/core/ids';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import type { TestStanding } from '@kindred-baton/core/standing';
import { getStanding } from '@kindred-baton/core/standing';
import type { ReadContext } from '../operation.ts';
import { isTurnInScope } from '../runs/in-scope.ts';
import { cycles } from '../schema/cycles.ts';
import { turns } from '../schema/turns.ts';

interface StandingOptions {
  /** Of all tests of the programme where absent. */
  readonly testIds?: readonly TestId[];
  /** The cycle in question: its turns count where it has any of a test. */
  readonly cycleId?: CycleId;
}

/**
 * For each test how it stands: over all its turns in the scope of the cycle in question, or else of the cycle opened last that has any.
 * A planned cycle says nothing. One query.
 */
export async function listStandings(
  { db, actor }: Pick<ReadContext, 'db' | 'actor'>,
  { testIds, cycleId }: StandingOptions = {},
): Promise<Map<TestId, TestStanding>> {
  if (testIds?.length === 0) return new Map();
  const own = testIds ? inArray(turns.testId, [...new Set(testIds)]) : eq(turns.programmeId, actor.programmeId);
  const isAsked = cycleId === undefined ? sql`false` : eq(cycles.id, cycleId);
  const { rows } = await db.execute<{ testId: TestId; cycle: string; counts: Partial<Record<TurnStatus, number>> }>(sql`
    select test_id as "testId", code as cycle, jsonb_object_agg(status, turns) as counts
    from (
      select ${turns.testId} as test_id, ${cycles.code} as code, ${turns.status} as status, count(*) as turns,
        dense_rank() over (partition by ${turns.testId} order by ${isAsked} desc, ${cycles.openedAt} desc, ${cycles.id}) as rank
      from ${turns} join ${cycles} on ${cycles.id} = ${turns.cycleId}
      where ${own} and ${turns.testId} is not null and ${cycles.openedAt} is not null and ${isTurnInScope}
      group by ${turns.testId}, ${cycles.id}, ${cycles.code}, ${cycles.openedAt}, ${turns.status}
    ) as counted
    where rank = 1
    group by test_id, code`);
  return new Map(
    rows.map(({ testId, cycle, counts }) => {
      const turnsOf = Object.values(counts).reduce((sum, number) => sum + number, 0);
      return [testId, { standing: getStanding(counts), cycle, turns: turnsOf, passed: counts.passed ?? 0 }];
    }),
  );
}
