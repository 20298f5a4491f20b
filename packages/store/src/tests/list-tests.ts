import { and, countDistinct, eq, inArray, sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import type { TestFilter, TestList, TestListItem } from '@kindred-baton/contracts/tests/library';
import { TESTS_A_PAGE } from '@kindred-baton/contracts/tests/library';
import type { TestId } from '@kindred-baton/core/ids';
import { facetTests, TEST_FACET_NAMES } from '@kindred-baton/core/tests/facets';
import type { FacetResult } from '@kindred-baton/core/tests/facets';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import { readPacked } from '../read-packed.ts';
import { nodes } from '../schema/map.ts';
import { applications, teams } from '../schema/programmes.ts';
import { requirementTests } from '../schema/requirements.ts';
import { legs } from '../schema/scenarios.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { listStandings } from '../map/list-standings.ts';

type Row = TestListItem;

/** A page of the library: tests with these words, in this scope, by these facets, and what every facet counts. Six queries. */
export const listTests: Query<TestFilter, TestList> = {
  right: 'read',
  read: async (context, filter) => {
    const { all, found, counts } = await findTests(context, filter);
    const from = filter.page * TESTS_A_PAGE;
    return {
      ...{ all, total: found.length, page: filter.page },
      tests: found.slice(from, from + TESTS_A_PAGE),
      facets: Object.fromEntries(TEST_FACET_NAMES.map((name) => [name, counts[name].map((count) => ({ ...count }))])) as TestList['facets'],
    };
  },
};

/** The codes of all tests that are found, for changing or exporting them at once. */
export const listTestCodes: Query<TestFilter, { codes: string[] }> = {
  right: 'read',
  read: async (context, filter) => ({ codes: (await findTests(context, filter)).found.map(({ code }) => code) }),
};

async function findTests(context: ReadContext, filter: TestFilter): Promise<FacetResult<Row> & { all: number }> {
  const words = toSearch(filter.q ?? '');
  const [rows, uses, serves, standings, below, [count]] = await Promise.all([
    loadRows(context, words),
    countUses(context),
    countServed(context),
    listStandings(context),
    filter.scope === undefined ? null : listScope(context, filter.scope),
    context.db
      .select({ all: sql<number>`count(*)::int` })
      .from(tests)
      .where(eq(tests.programmeId, context.actor.programmeId)),
  ]);
  const inScope = below === null ? rows : rows.filter(({ nodeId }) => below.has(nodeId));
  // Each by its name: copying 20,000 rows whole would take longer than asking for them.
  const listed = inScope.map((row): Row => ({
    id: row.id,
    code: row.code,
    name: row.name,
    minutes: row.minutes,
    priority: row.priority,
    runBy: row.runBy,
    tags: row.tags,
    node: { code: row.nodeCode, name: row.nodeName },
    team: row.team,
    application: row.application,
    version: row.version,
    state: row.state,
    usedIn: uses.get(row.id) ?? 0,
    serves: serves.get(row.id) ?? 0,
    standing: standings.get(row.id) ?? null,
  }));
  const { found, counts } = facetTests(listed, filter);
  return { all: count?.all ?? 0, found: sortRows(found, filter.sort), counts };
}

async function listScope(context: ReadContext, scope: string): Promise<ReadonlySet<string>> {
  return new Set(listSubtree(await loadTree(context), scope));
}

/** Without a sort, rows come by how well they fit the words, else by code. */
function sortRows(rows: readonly Row[], sort: TestFilter['sort']): readonly Row[] {
  switch (sort) {
    case undefined:
      return rows;
    case 'minutes':
      return [...rows].sort((a, b) => b.minutes - a.minutes);
    case 'used':
      return [...rows].sort((a, b) => b.usedIn - a.usedIn);
    default:
      return [...rows].sort((a, b) => (a[sort] ?? '').localeCompare(b[sort] ?? ''));
  }
}

/**
 * Words as a full-text query: each must occur, as it stands or as the beginning of a word. Signs separate words, as they do where the
 * text is indexed. Null when there are none.
 */
export function toSearch(text: string): string | null {
  const words = text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  return words.length === 0 ? null : words.map((word) => `${word}:*`).join(' & ');
}

/** Whether a test has the words of `toSearch`; the index tests_search answers it. */
export function hasWords(search: string): SQL {
  return sql`${tests.search} @@ to_tsquery('english', ${search})`;
}

/** A test as it is read: names beside each other, since a long list comes by columns. */
type ReadRow = Omit<Row, 'id' | 'node' | 'usedIn' | 'serves' | 'standing'> & {
  readonly id: TestId;
  readonly nodeId: string;
  readonly nodeCode: string;
  readonly nodeName: string;
};

function loadRows(context: ReadContext, search: string | null) {
  const { id, code, name, minutes, nodeId, priority, runBy, tags } = tests;
  const byFit = search === null ? sql`` : sql`ts_rank(${tests.search}, to_tsquery('english', ${search})) desc, `;
  return readPacked<ReadRow>(context, {
    cells: {
      ...{ id, code, name, minutes, nodeId, priority, runBy, tags, nodeCode: nodes.code, nodeName: nodes.name },
      ...{ team: teams.name, application: applications.name, version: sql`newest.number`, state: sql`newest.state` },
    },
    from: sql`from ${tests}
      join (select distinct on (${testVersions.testId}) ${testVersions.testId}, ${testVersions.number}, ${testVersions.state} from ${testVersions}
        order by ${testVersions.testId}, ${testVersions.number} desc) as newest on newest.test_id = ${id}
      join ${nodes} on ${eq(nodes.id, nodeId)}
      left join ${teams} on ${eq(teams.id, tests.teamId)}
      left join ${applications} on ${eq(applications.id, tests.applicationId)}
      where ${and(eq(tests.programmeId, context.actor.programmeId), search === null ? undefined : hasWords(search))}
      order by ${byFit}${code}`,
  });
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

async function countServed({ db, actor }: ReadContext): Promise<Map<TestId, number>> {
  const here = db.select({ id: tests.id }).from(tests).where(eq(tests.programmeId, actor.programmeId));
  const rows = await db
    .select({ testId: requirementTests.testId, count: sql<number>`count(*)::int` })
    .from(requirementTests)
    .where(inArray(requirementTests.testId, here))
    .groupBy(requirementTests.testId);
  return new Map(rows.map((row) => [row.testId, row.count]));
}
