import { asc, countDistinct, desc, eq } from 'drizzle-orm';
import type { TestList } from '@kindred-baton/contracts/tests/test';
import type { TestId } from '@kindred-baton/core/ids';
import type { Query, ReadContext } from '../operation.ts';
import { nodes } from '../schema/map.ts';
import { applications, teams } from '../schema/programmes.ts';
import { legs } from '../schema/scenarios.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { listNewestStatuses } from './list-newest-statuses.ts';

/** The library: every test with its newest version, where it is used and how it last went. Three queries. */
export const listTests: Query<void, TestList> = {
  right: 'read',
  read: async (context) => {
    const [rows, uses] = await Promise.all([loadRows(context), countUses(context)]);
    const statuses = await listNewestStatuses(
      context,
      rows.map((row) => row.id),
    );
    return { tests: rows.map((row) => ({ ...row, usedIn: uses.get(row.id) ?? 0, status: statuses.get(row.id) ?? null })) };
  },
};

function loadRows({ db, actor }: ReadContext) {
  const newest = db
    .selectDistinctOn([testVersions.testId], { testId: testVersions.testId, number: testVersions.number, state: testVersions.state })
    .from(testVersions)
    .orderBy(testVersions.testId, desc(testVersions.number))
    .as('newest');
  return db
    .select({
      id: tests.id,
      code: tests.code,
      name: tests.name,
      minutes: tests.minutes,
      node: { code: nodes.code, name: nodes.name },
      team: teams.name,
      application: applications.name,
      version: newest.number,
      state: newest.state,
    })
    .from(tests)
    .innerJoin(newest, eq(newest.testId, tests.id))
    .innerJoin(nodes, eq(nodes.id, tests.nodeId))
    .leftJoin(teams, eq(teams.id, tests.teamId))
    .leftJoin(applications, eq(applications.id, tests.applicationId))
    .where(eq(tests.programmeId, actor.programmeId))
    .orderBy(asc(tests.code));
}

async function countUses({ db, actor }: ReadContext): Promise<Map<TestId, number>> {
  const rows = await db
    .select({ testId: tests.id, scenarios: countDistinct(legs.scenarioId) })
    .from(tests)
    .innerJoin(legs, eq(legs.testId, tests.id))
    .where(eq(tests.programmeId, actor.programmeId))
    .groupBy(tests.id);
  return new Map(rows.map((row) => [row.testId, row.scenarios]));
}
