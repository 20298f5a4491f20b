import { and, desc, eq, inArray, ne } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { testColumns, testVersions, tests } from '../schema/tests.ts';

/** Every test of the programme with its newest version, by code; retired versions only where they are asked for. One query. */
export function loadNewestVersions({ db, actor }: Pick<ReadContext, 'db' | 'actor'>, { withRetired = false } = {}) {
  const newest = db
    .selectDistinctOn([testVersions.testId], { id: testVersions.id })
    .from(testVersions)
    .where(withRetired ? undefined : ne(testVersions.state, 'retired'))
    .orderBy(testVersions.testId, desc(testVersions.number));
  return db
    .select({ test: testColumns, version: testVersions })
    .from(tests)
    .innerJoin(testVersions, eq(testVersions.testId, tests.id))
    .where(and(eq(tests.programmeId, actor.programmeId), inArray(testVersions.id, newest)))
    .orderBy(tests.code);
}

export type NewestVersion = Awaited<ReturnType<typeof loadNewestVersions>>[number];
