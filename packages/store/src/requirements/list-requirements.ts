import { and, asc, count, eq, notExists, or, sql } from 'drizzle-orm';
import type {
  ListedRequirement,
  RequirementItem,
  RequirementList,
  RequirementQuery,
  Traceability,
} from '@kindred-baton/contracts/requirements/requirement';
import { MATRIX_COLUMNS, MATRIX_ROWS, REQUIREMENTS_A_PAGE } from '@kindred-baton/contracts/requirements/requirement';
import { countGaps, filterRequirements, hasGap } from '@kindred-baton/core/requirements/filter-requirements';
import { readLinks } from '@kindred-baton/core/requirements/read-links';
import { gatherProof, getRequirementState, proposeNextCode } from '@kindred-baton/core/requirements/requirement';
import { pushTo } from '@kindred-baton/core/push-to';
import type { CycleId, NodeId, RequirementId, TestId } from '@kindred-baton/core/ids';
import type { TestStanding } from '@kindred-baton/core/standing';
import type { Query, ReadContext } from '../operation.ts';
import { cutPage, placePage } from '@kindred-baton/core/tables/pages';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import { readPacked } from '../read-packed.ts';
import { nodes } from '../schema/map.ts';
import { requirementNodes, requirementTests, requirements } from '../schema/requirements.ts';
import { tests } from '../schema/tests.ts';
import { listStandings } from '../map/list-standings.ts';

/** Every requirement with its links and what its tests say of it, in the cycle in question or else in their newest ones. Four queries. */
export const listRequirements: Query<{ readonly cycleId?: CycleId }, RequirementList> = {
  right: 'read',
  read: async (context, { cycleId }) => {
    const links = await loadLinks(context);
    const testIds = links.tests.map(({ id }) => id);
    return { requirements: toItems(links, await listStandings(context, { testIds, ...(cycleId && { cycleId }) })) };
  },
};

/** Requirements and tests against each other, a page at a time, and the gaps on both sides over all. Seven queries, eight of a matrix. */
export const getTraceability: Query<RequirementQuery, Traceability> = {
  right: 'read',
  read: async (context, query) => {
    const [links, tree] = await Promise.all([loadLinks(context), query.scope === undefined ? null : loadTree(context)]);
    const branch = tree && listSubtree(tree, query.scope ?? '');
    const [standings, unserved] = await Promise.all([
      listStandings(context, { testIds: links.tests.map(({ id }) => id) }),
      countUnserved(context, branch),
    ]);
    const items = toItems(links, standings);
    const codes = tree && branch && new Set(branch.map((id) => tree.byId.get(id)?.node.code ?? ''));
    const left = filterRequirements(items, { kind: query.kind, words: query.words, branch: codes });
    const isMatrix = query.view === 'matrix';
    const { show } = query;
    const rows = cutPage(show === undefined ? left : left.filter((item) => hasGap(item, show)), {
      page: query.page,
      of: isMatrix ? MATRIX_ROWS : REQUIREMENTS_A_PAGE,
    });
    const matrix = isMatrix ? await loadColumns(context, { links, left, branch, rows: rows.shown, page: query.across }) : NO_COLUMNS;
    return {
      ...{ all: items.length, left: left.length, gaps: countGaps(left), unserved },
      ...{ rows: rows.at, requirements: rows.shown.map(toListed), ...matrix },
      chosen: items.find(({ code }) => code === query.requirement) ?? null,
      nextCode: proposeNextCode(items.map(({ code }) => code)),
    };
  },
};

/** What somebody typed of tests, as codes. One query. */
export const readTestLinks: Query<string, { codes: string[] }> = {
  right: 'read',
  read: async (context, text) => {
    const known = await readPacked<{ code: string; name: string }>(context, {
      cells: { code: tests.code, name: tests.name },
      from: sql`from ${tests} where ${eq(tests.programmeId, context.actor.programmeId)}`,
    });
    return { codes: readLinks(text, known) };
  },
};

const NO_COLUMNS = { columns: { page: 1, from: 0, size: 0 }, tests: [] };

const toListed = ({ description: _, nodes: places, tests: linked, ...item }: RequirementItem): ListedRequirement => ({
  ...item,
  nodes: places.map(({ code }) => code),
  tests: linked.map(({ code }) => code),
  proof: gatherProof(linked.map(({ standing }) => standing)),
});

const isAt = (branch: readonly NodeId[] | null) => (branch ? sql`${tests.nodeId} = any(${sql.param(branch)}::uuid[])` : undefined);

async function countUnserved({ db, actor }: ReadContext, branch: readonly NodeId[] | null): Promise<number> {
  const serves = db.select({ id: requirementTests.testId }).from(requirementTests).where(eq(requirementTests.testId, tests.id));
  const [row] = await db
    .select({ unserved: count() })
    .from(tests)
    .where(and(eq(tests.programmeId, actor.programmeId), isAt(branch), notExists(serves)));
  return row?.unserved ?? 0;
}

interface ColumnsWanted {
  readonly links: Links;
  readonly left: readonly RequirementItem[];
  readonly branch: readonly NodeId[] | null;
  readonly rows: readonly RequirementItem[];
  readonly page: number;
}

/**
 * The tests across a matrix: those of the branch, and those that serve its requirements, by code. Where they are more than a page, those that serve
 * what is shown come first.
 */
async function loadColumns(
  context: ReadContext,
  { links, left, branch, rows, page }: ColumnsWanted,
): Promise<Pick<Traceability, 'columns' | 'tests'>> {
  const { db, actor } = context;
  const idOf = new Map(links.tests.map(({ code, id }) => [code, id]));
  const listIds = (items: readonly RequirementItem[]) => [
    ...new Set(items.flatMap((item) => item.tests.flatMap(({ code }) => idOf.get(code) ?? []))),
  ];
  const among = (ids: readonly TestId[]) => sql`${tests.id} = any(${sql.param(ids)}::uuid[])`;
  const isAcross = and(eq(tests.programmeId, actor.programmeId), branch ? or(isAt(branch), among(listIds(left))) : undefined);
  const [counted] = await db.select({ size: count() }).from(tests).where(isAcross);
  const columns = placePage(counted?.size ?? 0, { page, of: MATRIX_COLUMNS });
  const first = columns.size > MATRIX_COLUMNS ? [sql`${among(listIds(rows))} desc`] : [];
  const shown = await db
    .select({ id: tests.id, code: tests.code, name: tests.name })
    .from(tests)
    .where(isAcross)
    .orderBy(...first, asc(tests.code))
    .limit(MATRIX_COLUMNS)
    .offset(columns.from);
  const standings = await listStandings(context, { testIds: shown.map(({ id }) => id) });
  const codeOf = new Map(links.rows.map(({ id, code }) => [id, code]));
  const served = new Map<TestId, string[]>();
  for (const { id, requirementId } of links.tests) pushTo(served, id, codeOf.get(requirementId) ?? '');
  return {
    columns,
    tests: shown.map(({ id, ...test }) => ({ ...test, standing: standings.get(id) ?? null, requirements: served.get(id) ?? [] })),
  };
}

interface Links {
  readonly rows: readonly (typeof requirements.$inferSelect)[];
  readonly nodes: readonly { readonly requirementId: RequirementId; readonly code: string; readonly name: string }[];
  readonly tests: readonly { readonly requirementId: RequirementId; readonly id: TestId; readonly code: string; readonly name: string }[];
}

async function loadLinks({ db, actor }: ReadContext): Promise<Links> {
  const isHere = and(eq(requirements.programmeId, actor.programmeId));
  const [rows, nodeRows, testRows] = await Promise.all([
    db.select().from(requirements).where(isHere).orderBy(asc(requirements.code)),
    db
      .select({ requirementId: requirementNodes.requirementId, code: nodes.code, name: nodes.name })
      .from(requirementNodes)
      .innerJoin(requirements, and(eq(requirements.id, requirementNodes.requirementId), isHere))
      .innerJoin(nodes, eq(nodes.id, requirementNodes.nodeId))
      .orderBy(asc(nodes.code)),
    db
      .select({ requirementId: requirementTests.requirementId, id: tests.id, code: tests.code, name: tests.name })
      .from(requirementTests)
      .innerJoin(requirements, and(eq(requirements.id, requirementTests.requirementId), isHere))
      .innerJoin(tests, eq(tests.id, requirementTests.testId))
      .orderBy(asc(tests.code)),
  ]);
  return { rows, nodes: nodeRows, tests: testRows };
}

function toItems(links: Links, standings: ReadonlyMap<TestId, TestStanding>): RequirementItem[] {
  const nodesOf = new Map<RequirementId, RequirementItem['nodes']>();
  for (const { requirementId, code, name } of links.nodes) pushTo(nodesOf, requirementId, { code, name });
  const testsOf = new Map<RequirementId, RequirementItem['tests']>();
  for (const { requirementId, id, code, name } of links.tests)
    pushTo(testsOf, requirementId, { code, name, standing: standings.get(id) ?? null });
  return links.rows.map(({ id, code, title, description, kind, priority }) => {
    const linked = testsOf.get(id) ?? [];
    const state = getRequirementState(linked.map(({ standing }) => standing?.standing ?? null));
    return { ...{ id, code, title, description, kind, priority, state }, nodes: nodesOf.get(id) ?? [], tests: linked };
  });
}
