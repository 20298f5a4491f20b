import { and, asc, eq } from 'drizzle-orm';
import type { RequirementItem, RequirementList, Traceability } from '@kindred-baton/contracts/requirements/requirement';
import { getRequirementState } from '@kindred-baton/core/requirements/requirement';
import { pushTo } from '@kindred-baton/core/push-to';
import type { CycleId, RequirementId, TestId } from '@kindred-baton/core/ids';
import type { TestStanding } from '@kindred-baton/core/standing';
import type { Query, ReadContext } from '../operation.ts';
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

/** Requirements and tests against each other, with the tests that serve none. Five queries. */
export const getTraceability: Query<void, Traceability> = {
  right: 'read',
  read: async (context) => {
    const { db, actor } = context;
    const [links, testRows] = await Promise.all([
      loadLinks(context),
      db
        .select({ id: tests.id, code: tests.code, name: tests.name, node: nodes.code })
        .from(tests)
        .innerJoin(nodes, eq(nodes.id, tests.nodeId))
        .where(eq(tests.programmeId, actor.programmeId))
        .orderBy(asc(tests.code)),
    ]);
    const standings = await listStandings(context);
    const codeOf = new Map(links.rows.map(({ id, code }) => [id, code]));
    const served = new Map<TestId, string[]>();
    for (const { id, requirementId } of links.tests) pushTo(served, id, codeOf.get(requirementId) ?? '');
    return {
      requirements: toItems(links, standings),
      tests: testRows.map(({ id, ...test }) => ({ ...test, standing: standings.get(id) ?? null, requirements: served.get(id) ?? [] })),
    };
  },
};

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
