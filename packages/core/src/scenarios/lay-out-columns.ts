/**
 * Longest-path layering of a directed graph (Kahn 1962 for the order): `after[i]` lists the nodes before node i.
 * Nodes with no path between them may share a layer. Nodes on a cycle, and all behind one, come back in `cyclic`
 * and get their own index as layer. Cost O(nodes + edges).
 */
export function layOutColumns(after: readonly (readonly number[])[]): { columnOf: number[]; cyclic: number[] } {
  const next: number[][] = after.map(() => []);
  const open = after.map((before, node) => {
    for (const from of before) next[from]?.push(node);
    return before.length;
  });
  const columnOf = after.map(() => 0);
  const queue = open.flatMap((count, node) => (count === 0 ? [node] : []));
  for (let head = 0; head < queue.length; head += 1) {
    const node = queue[head] ?? 0;
    for (const to of next[node] ?? []) {
      columnOf[to] = Math.max(columnOf[to] ?? 0, (columnOf[node] ?? 0) + 1);
      open[to] = (open[to] ?? 0) - 1;
      if (open[to] === 0) queue.push(to);
    }
  }
  const cyclic = open.flatMap((count, node) => (count > 0 ? [node] : []));
  for (const node of cyclic) columnOf[node] = node;
  return { columnOf, cyclic };
}

/** All nodes that come after `start`, over any number of edges, in ascending order. Cost O(nodes + edges). */
export function findBehind(after: readonly (readonly number[])[], start: number): number[] {
  const next: number[][] = after.map(() => []);
  after.forEach((before, node) => before.forEach((from) => next[from]?.push(node)));
  const seen = new Set<number>();
  const stack = [start];
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    for (const to of next[node] ?? []) {
      if (!seen.has(to)) {
        seen.add(to);
        stack.push(to);
      }
    }
  }
  seen.delete(start);
  return [...seen].sort((a, b) => a - b);
}
