import { and, countDistinct, eq } from 'drizzle-orm';
import type { MapView } from '@kindred-baton/contracts/map/node';
import type { NodeId } from '@kindred-baton/core/ids';
import type { Query, ReadContext } from '../operation.ts';
import { countTests } from './count-tests.ts';
import { findCurrentCycle } from '../programmes/find-current-cycle.ts';
import { programmes } from '../schema/programmes.ts';
import { requirementNodes, requirementTests, requirements } from '../schema/requirements.ts';
import { isDrawn, legs, scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import type { Tree } from './load-tree.ts';
import { listChangedNodes } from './get-map-changes.ts';
import { loadOutlineNames } from './load-outline.ts';
import { loadTree } from './load-tree.ts';

/** The process map as an outline, with what hangs on each node; a node's numbers include those below it. Nine queries. */
export const getMap: Query<void, MapView> = {
  right: 'read',
  read: async (context) => {
    const [tree, [programme], names, testCounts, passes, needs, cycle] = await Promise.all([
      loadTree(context),
      context.db
        .select({ levels: programmes.levels, codeScheme: programmes.codeScheme })
        .from(programmes)
        .where(eq(programmes.id, context.actor.programmeId)),
      loadOutlineNames(context),
      countTests(context),
      listPasses(context),
      countRequirements(context),
      findCurrentCycle(context),
    ]);
    const changed = cycle?.openedAt ? await listChangedNodes(context, cycle.openedAt) : new Set<string>();
    const total = (own: (id: NodeId) => number) => sumUp(tree, own);
    const testsAt = total((id) => testCounts.get(id) ?? 0);
    const required = total((id) => needs.get(id)?.all ?? 0);
    const covered = total((id) => needs.get(id)?.covered ?? 0);
    const scenariosAt = unite(tree, passes);
    return {
      levels: programme?.levels ?? [],
      codeScheme: programme?.codeScheme ?? [],
      since: cycle?.openedAt ? { code: cycle.code, name: cycle.name } : null,
      nodes: tree.nodes.map(({ node, depth, order }) => ({
        id: node.id,
        code: node.code,
        name: node.name,
        parentId: node.parentId,
        depth,
        team: node.teamId ? (names.teams.nameOf.get(node.teamId) ?? null) : null,
        application: node.applicationId ? (names.applications.nameOf.get(node.applicationId) ?? null) : null,
        owner: node.ownerId ? (names.people.nameOf.get(node.ownerId) ?? null) : null,
        isCritical: node.isCritical,
        isRetired: node.isRetired,
        isChanged: changed.has(node.id),
        hasChildren: tree.nodes[order + 1]?.parent === order,
        tests: testsAt[order] ?? 0,
        scenarios: scenariosAt[order]?.size ?? 0,
        requirements: required[order] ?? 0,
        covered: covered[order] ?? 0,
      })),
      totals: {
        tests: [...testCounts.values()].reduce((a, b) => a + b, 0),
        scenarios: new Set(passes.map((pass) => pass.scenarioId)).size,
      },
      more: { nodes: 0, changed: 0 },
    };
  },
};

/** So many nodes are more than a screen shows. */
const FIRST_NODES = 150;

/** The map as a page begins with it: whole where it is short, else the first nodes of the branch. */
export const getMapStart: Query<{ readonly scope?: string | undefined }, MapView> = {
  right: 'read',
  read: async (context, { scope }) => {
    const view = await getMap.read(context, undefined);
    if (view.nodes.length <= FIRST_NODES) return view;
    const start = Math.max(
      0,
      view.nodes.findIndex(({ code }) => code === scope),
    );
    const nodes = view.nodes.slice(start, start + FIRST_NODES);
    const countChanged = (list: MapView['nodes']) => list.filter(({ isChanged }) => isChanged).length;
    return { ...view, nodes, more: { nodes: view.nodes.length - nodes.length, changed: countChanged(view.nodes) - countChanged(nodes) } };
  },
};

/** Which scenario passes which node, through its legs' tests. */
async function listPasses({ db, actor }: ReadContext): Promise<{ nodeId: NodeId; scenarioId: string }[]> {
  return db
    .selectDistinct({ nodeId: tests.nodeId, scenarioId: scenarios.id })
    .from(scenarios)
    .innerJoin(legs, eq(legs.scenarioId, scenarios.id))
    .innerJoin(tests, eq(tests.id, legs.testId))
    .where(and(eq(scenarios.programmeId, actor.programmeId), isDrawn));
}

async function countRequirements({ db, actor }: ReadContext): Promise<Map<NodeId, { all: number; covered: number }>> {
  const rows = await db
    .select({
      nodeId: requirementNodes.nodeId,
      all: countDistinct(requirementNodes.requirementId),
      covered: countDistinct(requirementTests.requirementId),
    })
    .from(requirementNodes)
    .innerJoin(requirements, and(eq(requirements.id, requirementNodes.requirementId), eq(requirements.programmeId, actor.programmeId)))
    .leftJoin(requirementTests, eq(requirementTests.requirementId, requirementNodes.requirementId))
    .groupBy(requirementNodes.nodeId);
  return new Map(rows.map((row) => [row.nodeId, row]));
}

function sumUp(tree: Tree, own: (id: NodeId) => number): number[] {
  const sums = tree.nodes.map(({ node }) => own(node.id));
  for (const { order, parent } of [...tree.nodes].reverse()) if (parent >= 0) sums[parent] = (sums[parent] ?? 0) + (sums[order] ?? 0);
  return sums;
}

function unite(tree: Tree, passes: readonly { nodeId: NodeId; scenarioId: string }[]): Set<string>[] {
  const sets = tree.nodes.map(() => new Set<string>());
  for (const { nodeId, scenarioId } of passes) {
    for (let at = tree.byId.get(nodeId); at; at = at.parent >= 0 ? tree.nodes[at.parent] : undefined) sets[at.order]?.add(scenarioId);
  }
  return sets;
}
