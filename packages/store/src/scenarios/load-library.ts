import { desc, eq, sql } from 'drizzle-orm';
import type { ChainTest } from '@kindred-baton/core/scenarios/chain-library';
import type { ReadContext } from '../operation.ts';
import { getPath, loadTree } from '../map/load-tree.ts';
import { teams } from '../schema/programmes.ts';
import { testVersions, tests } from '../schema/tests.ts';

export interface LibraryTest extends ChainTest {
  readonly team: string | null;
}

/** Every test that may be used in a chain, in its newest agreed version, else its draft: what it needs and gives. Two queries. */
export async function loadLibrary(context: Pick<ReadContext, 'db' | 'actor'>): Promise<LibraryTest[]> {
  const { db, actor } = context;
  const tree = await loadTree(context);
  const rows = await db
    .selectDistinctOn([testVersions.testId], {
      ...{ code: tests.code, name: tests.name, minutes: tests.minutes, team: teams.name, nodeId: tests.nodeId, state: testVersions.state },
      ...{ needs: testVersions.needs, gives: testVersions.gives },
      ownValues: sql<Record<string, string> | null>`${testVersions.rows} -> 0 -> 'values'`,
    })
    .from(testVersions)
    .innerJoin(tests, eq(tests.id, testVersions.testId))
    .leftJoin(teams, eq(teams.id, tests.teamId))
    .where(eq(tests.programmeId, actor.programmeId))
    .orderBy(testVersions.testId, desc(eq(testVersions.state, 'agreed')), desc(testVersions.number));
  return rows
    .filter(({ state }) => state !== 'retired')
    .map(({ state: _, nodeId, ownValues, ...test }) => {
      const stream = getPath(tree, nodeId)[0]?.node.name;
      return { ...test, ...(stream === undefined ? {} : { stream }), ownValues: ownValues ?? {} };
    })
    .sort((a, b) => (a.code < b.code ? -1 : 1));
}
