import type { NodeId } from '@kindred-baton/core/ids';
import type { SQL } from 'drizzle-orm';
import { sql } from 'drizzle-orm';
import type { Tree } from '../../map/load-tree.ts';
import { loadTree } from '../../map/load-tree.ts';
import { turns } from '../../schema/turns.ts';
import type { TurnFacet } from './facet.ts';
import { toValue } from './facet.ts';

/** What is below a critical node is critical too. */
function listCritical({ nodes }: Tree): NodeId[] {
  const isCritical: boolean[] = [];
  for (const { node, parent, order } of nodes) isCritical[order] = node.isCritical || (isCritical[parent] ?? false);
  return nodes.filter(({ order }) => isCritical[order]).map(({ node }) => node.id);
}

const tellFrom = (tree: Tree): SQL =>
  sql`case when ${turns.nodeId} = any(${sql.param(listCritical(tree))}::uuid[]) then 'critical' else 'other' end`;

export const criticalityFacet: TurnFacet = {
  load: async (_, { tree }) => ({
    facet: 'criticality',
    value: tellFrom(tree),
    read: (value) => ({ ...toValue(value, value === 'critical' ? 0 : 1), name: value === 'critical' ? 'Critical' : 'Not critical' }),
  }),
  filter: async (context, value) => sql`${tellFrom(await loadTree(context))} = ${value}`,
};
