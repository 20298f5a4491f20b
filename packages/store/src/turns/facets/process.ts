import { sql } from 'drizzle-orm';
import type { Tree, TreeNode } from '../../map/load-tree.ts';
import { listSubtree, loadTree } from '../../map/load-tree.ts';
import type { ReadContext } from '../../operation.ts';
import { turns } from '../../schema/turns.ts';
import type { TurnFilter } from '../filter-turns.ts';
import { amongIds } from '../filter-turns.ts';
import type { FacetPlace, FacetValue, LoadedFacet, TurnFacet } from './facet.ts';
import { toNone } from './facet.ts';
import { testFacet } from './test.ts';

/** Before a code: the turns at that node itself, without those below it. */
const ITSELF = '=';

const byNode: TurnFilter = async (context, code) => {
  const tree = await loadTree(context);
  if (!code.startsWith(ITSELF)) return amongIds(turns.nodeId, listSubtree(tree, code));
  const entry = tree.byCode.get(code.slice(ITSELF.length));
  return amongIds(turns.nodeId, entry ? [entry.node.id] : []);
};

/**
 * Of the whole map the second level, by stream; of a chosen node the level below it; of a node with nothing below it, its tests. A turn at a node above that
 * level is counted at that node itself.
 */
async function load(context: ReadContext, place: FacetPlace): Promise<LoadedFacet> {
  const { tree, scope, as } = place;
  if (scope && tree.nodes[scope.order + 1]?.parent !== scope.order) return testFacet.load(context, place);
  const level = scope ? scope.depth + 1 : 1;
  const shown = tree.nodes.map((entry) => findAtLevel(tree, entry, level));
  const ids = tree.nodes.map(({ node }) => node.id);
  const orders = shown.map(({ order }) => order);
  return {
    facet: 'process',
    value: sql`${as}.shown`,
    join: sql`left join unnest(${sql.param(ids)}::uuid[], ${sql.param(orders)}::int[]) as ${as}(node, shown) on ${as}.node = ${turns.nodeId}`,
    read: (order) => readNode(tree, tree.nodes[Number(order)], level),
  };
}

function findAtLevel(tree: Tree, entry: TreeNode, level: number): TreeNode {
  let at = entry;
  while (at.depth > level) at = tree.nodes[at.parent] ?? entry;
  return at;
}

function readNode(tree: Tree, entry: TreeNode | undefined, level: number): FacetValue {
  if (!entry) return toNone('None');
  const { node, depth, order } = entry;
  const hasBelow = tree.nodes[order + 1]?.parent === order;
  const isItself = depth < level && hasBelow;
  const stream = depth < level ? entry : tree.nodes[entry.parent];
  return {
    key: isItself ? `${ITSELF}${node.code}` : node.code,
    name: isItself ? `${node.name} itself` : node.name,
    ...{ group: level === 1 ? (stream?.node.name ?? '') : '', order },
  };
}

export const processFacet: TurnFacet = { load, filter: byNode };
