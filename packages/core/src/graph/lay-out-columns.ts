import { orderNodes } from './order-nodes.ts';

/**
 * Longest-path layering of a directed graph: `after[i]` lists the nodes before node i. Nodes with no path between them may share a layer.
 * Nodes on a circle, and all behind one, come back in `cyclic` and get their own index as layer. Cost O(nodes + edges).
 */
export function layOutColumns(after: readonly (readonly number[])[]): { columnOf: number[]; cyclic: number[] } {
  const { order, next, cyclic } = orderNodes(after);
  const columnOf = after.map(() => 0);
  for (const node of order) for (const to of next[node]!) columnOf[to] = Math.max(columnOf[to]!, columnOf[node]! + 1);
  for (const node of cyclic) columnOf[node] = node;
  return { columnOf, cyclic: [...cyclic] };
}
