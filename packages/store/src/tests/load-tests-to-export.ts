import { AppError } from '@kindred-baton/contracts/errors';
import type { ExportedTest } from '@kindred-baton/core/imports/exported-test';
import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import { getPath, loadTree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import { cycles } from '../schema/cycles.ts';
import { applications, environments, installations, teams } from '../schema/programmes.ts';
import { testVersions, tests } from '../schema/tests.ts';

/** Tests in their newest version, in the order of the codes. Three queries. */
export const loadTestsToExport: Query<{ readonly codes: readonly string[] }, ExportedTest[]> = {
  right: 'read',
  read: async (context, { codes }) => {
    const { db, actor } = context;
    const [tree, rows, places] = await Promise.all([
      loadTree(context),
      db
        .selectDistinctOn([tests.code], { test: tests, version: testVersions, team: teams.name, application: applications.name })
        .from(tests)
        .innerJoin(testVersions, eq(testVersions.testId, tests.id))
        .leftJoin(teams, eq(teams.id, tests.teamId))
        .leftJoin(applications, eq(applications.id, tests.applicationId))
        .where(and(eq(tests.programmeId, actor.programmeId), inArray(tests.code, [...codes])))
        .orderBy(tests.code, desc(testVersions.number)),
      listAddresses(context),
    ]);
    const byCode = new Map(rows.map((row) => [row.test.code, row]));
    return codes.map((code) => {
      const found = byCode.get(code);
      if (!found) throw new AppError('not found', `There is no test ${code} in the library any more.`);
      const { test, version, team, application } = found;
      const path = getPath(tree, test.nodeId).map(({ node }) => node);
      return {
        ...{ code, name: test.name, activity: path.at(-1)?.code ?? '', team, application, priority: test.priority, tags: test.tags },
        ...{ minutes: test.minutes, steps: version.steps, rows: version.rows, needs: version.needs, gives: version.gives },
        ...{ version: version.number, state: version.state, path: path.map(({ name }) => name) },
        address: places.find(({ applicationId }) => applicationId === test.applicationId)?.address ?? null,
      };
    });
  },
};

/** Where applications stand: those of an environment that an open cycle tests in first. */
function listAddresses({ db, actor }: ReadContext) {
  const isTestedNow = sql`exists (select 1 from ${cycles} where ${cycles.environmentId} = ${installations.environmentId} and ${cycles.state} = 'open')`;
  return db
    .select({ applicationId: installations.applicationId, address: installations.address })
    .from(installations)
    .innerJoin(environments, eq(environments.id, installations.environmentId))
    .where(eq(environments.programmeId, actor.programmeId))
    .orderBy(desc(isTestedNow), asc(environments.name));
}
