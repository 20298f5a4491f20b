import { and, desc, eq, inArray, ne } from 'drizzle-orm';
import type { NodeId } from '@kindred-baton/core/ids';
import type { ReadContext } from '../operation.ts';
import { testVersions, tests } from '../schema/tests.ts';

/** Every test with its newest version that is not retired, by code; all of the programme, or those at some nodes. One query. */
export function loadNewestVersions({ db, actor }: Pick<ReadContext, 'db' | 'actor'>, at?: readonly NodeId[]) {
  const newest = db
    .selectDistinctOn([testVersions.testId], { id: testVersions.id })
    .from(testVersions)
    .where(ne(testVersions.state, 'retired'))
    .orderBy(testVersions.testId, desc(testVersions.number));
  return db
    .select({ test: tests, version: testVersions })
    .from(tests)
    .innerJoin(testVersions, eq(testVersions.testId, tests.id))
    .where(
      and(
        eq(tests.programmeId, actor.programmeId),
        inArray(testVersions.id, newest),
        at === undefined ? undefined : inArray(tests.nodeId, [...at]),
      ),
    )
    .orderBy(tests.code);
}

export type NewestVersion = Awaited<ReturnType<typeof loadNewestVersions>>[number];
