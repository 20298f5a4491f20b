import { and, asc, eq } from 'drizzle-orm';
import type { WaiverView } from '@kindred-baton/contracts/tests/test';
import type { TestId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import type { ReadContext } from '../operation.ts';
import { people } from '../schema/people.ts';
import { tests, waivers } from '../schema/tests.ts';

/** The waivers of each test; of one, or of all of the programme. One query. */
export async function loadWaivers({ db, actor }: ReadContext, testId?: TestId): Promise<Map<TestId, WaiverView[]>> {
  const rows = await db
    .select({ testId: waivers.testId, rule: waivers.rule, about: waivers.about, note: waivers.note, by: people.name, at: waivers.at })
    .from(waivers)
    .innerJoin(tests, eq(tests.id, waivers.testId))
    .innerJoin(people, eq(people.id, waivers.personId))
    .where(and(eq(tests.programmeId, actor.programmeId), testId === undefined ? undefined : eq(waivers.testId, testId)))
    .orderBy(asc(waivers.at));
  const of = new Map<TestId, WaiverView[]>();
  for (const { testId: id, at, ...row } of rows) pushTo(of, id, { ...row, at: at.toISOString() });
  return of;
}
