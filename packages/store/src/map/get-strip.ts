import { and, count, eq, sql } from 'drizzle-orm';
import type { StripQuery, StripView } from '@kindred-baton/contracts/map/strip';
import type { NodeId } from '@kindred-baton/core/ids';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import type { StripNode } from '@kindred-baton/core/progress/strip';
import { packStrip } from '@kindred-baton/core/progress/strip';
import type { Tally } from '@kindred-baton/core/progress/tally';
import { codeFacet, codeStatuses, getCounts, tallyTurns } from '@kindred-baton/core/progress/tally';
import { findCurrentCycle } from '../programmes/find-current-cycle.ts';
import type { Query, ReadContext } from '../operation.ts';
import { readPacked } from '../read-packed.ts';
import { isTurnInScope } from '../runs/in-scope.ts';
import { turns } from '../schema/turns.ts';
import type { Tree, TreeNode } from './load-tree.ts';
import { getPath, loadTree } from './load-tree.ts';

/** How many levels are drawn whole; of those below, the level under the chosen branch. */
const LEVELS = 3;

/** The strip: three levels of the map with each node's outcomes in the current cycle, and the next level of a branch. Three queries. */
export const getStrip: Query<StripQuery, StripView> = {
  right: 'read',
  read: async (context, { branch }) => {
    const [tree, cycle] = await Promise.all([loadTree(context), findCurrentCycle(context)]);
    const counted = cycle ? await countNodes(context, tree, cycle.id) : new Float64Array(0);
    const chosen = branch === undefined ? undefined : tree.byCode.get(branch);
    return {
      cycle: cycle ? { id: cycle.id, code: cycle.code, name: cycle.name } : null,
      nodes: packStrip(toStripNodes(tree, listDrawn(tree, chosen), counted)),
      path: chosen ? getPath(tree, chosen.node.id).map(({ node }) => node.code) : [],
    };
  },
};

/** Below the levels that are drawn whole: what lies in the chosen node; where nothing does, what lies beside it. */
function listDrawn(tree: Tree, chosen: TreeNode | undefined): readonly TreeNode[] {
  const isUnder = (order: number) => (entry: TreeNode) => entry.parent === order;
  const unfolded = !chosen || chosen.depth < LEVELS - 1 ? undefined : tree.nodes.some(isUnder(chosen.order)) ? chosen.order : chosen.parent;
  return tree.nodes.filter((entry) => entry.depth < LEVELS || entry.parent === unfolded);
}

function toStripNodes(tree: Tree, drawn: readonly TreeNode[], counted: Tally['nodes']): StripNode[] {
  const leaves = countLeaves(tree);
  const placeOf = new Map(drawn.map(({ order }, place) => [order, place]));
  // What lies deeper stands under the nearest node that is drawn.
  const findPlace = (order: number): number => (order < 0 ? -1 : (placeOf.get(order) ?? findPlace(tree.nodes[order]?.parent ?? -1)));
  return drawn.map(({ node, parent, depth, order }) => ({
    ...{ code: node.code, name: node.name, parent: findPlace(parent), depth, leaves: leaves[order] ?? 1 },
    counts: getCounts(counted, order),
  }));
}

function countLeaves({ nodes }: Tree): number[] {
  const leaves = nodes.map(() => 0);
  for (let at = nodes.length - 1; at >= 0; at -= 1) {
    leaves[at] ||= 1;
    const parent = nodes[at]?.parent ?? -1;
    if (parent >= 0) leaves[parent] = (leaves[parent] ?? 0) + (leaves[at] ?? 0);
  }
  return leaves;
}

/** Turns are counted by node and status in SQL, then summed up the tree as weights. */
async function countNodes({ db, actor }: ReadContext, tree: Tree, cycleId: typeof turns.$inferSelect.cycleId): Promise<Tally['nodes']> {
  const { nodeId, status } = turns;
  const here = and(eq(turns.cycleId, cycleId), eq(turns.programmeId, actor.programmeId), isTurnInScope);
  const rows = await readPacked<{ nodeId: NodeId; status: TurnStatus; turns: number }>(
    { db },
    { cells: { nodeId, status, turns: count() }, from: sql`from ${turns} where ${here} group by ${nodeId}, ${status}` },
  );
  const known = rows.filter((row) => tree.byId.has(row.nodeId));
  const all = codeFacet(known.map(() => ''));
  const sheet = {
    size: known.length,
    status: codeStatuses(known.map((row) => row.status)),
    node: Int32Array.from(known, (row) => tree.byId.get(row.nodeId)?.order ?? 0),
    parents: Int32Array.from(tree.nodes, (entry) => entry.parent),
  };
  return tallyTurns(
    sheet,
    { rows: all, columns: all },
    Float64Array.from(known, (row) => row.turns),
  ).nodes;
}

/** The counts of one node's branch, as the strip has them. */
export async function countBranch(context: ReadContext, tree: Tree, entry: TreeNode): Promise<ReturnType<typeof getCounts>> {
  const cycle = await findCurrentCycle(context);
  return getCounts(cycle ? await countNodes(context, tree, cycle.id) : new Float64Array(0), entry.order);
}
