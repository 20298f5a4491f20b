import { count, eq } from 'drizzle-orm';
import type { NodeId } from '@kindred-baton/core/ids';
import type { ReadContext } from '../operation.ts';
import { tests } from '../schema/tests.ts';

/** How many tests each node holds itself. */
export async function countTests({ db, actor }: ReadContext): Promise<Map<NodeId, number>> {
  const rows = await db
    .select({ nodeId: tests.nodeId, tests: count() })
    .from(tests)
    .where(eq(tests.programmeId, actor.programmeId))
    .groupBy(tests.nodeId);
  return new Map(rows.map((row) => [row.nodeId, row.tests]));
}
