/** The nodes of a directed graph in an order in which each stands after those before it, and what lies behind each. */
export interface NodeOrder {
  /** Kahn (1962): sources in ascending order first; nodes on a circle, and all behind one, are left out. */
  readonly order: readonly number[];
  /** `next[i]`: the nodes that name i as one before them. */
  readonly next: readonly (readonly number[])[];
  /** Nodes on a circle and all behind one, in ascending order. */
  readonly cyclic: readonly number[];
}

/** `after[i]` lists the nodes before node i; a place outside is passed over. Cost O(nodes + edges). */
export function orderNodes(after: readonly (readonly number[])[]): NodeOrder {
  const next = listNext(after);
  const open = after.map((before) => before.filter((from) => from in after).length);
  const order = open.flatMap((count, node) => (count === 0 ? [node] : []));
  for (let head = 0; head < order.length; head += 1) {
    for (const to of next[order[head]!]!) {
      open[to]! -= 1;
      if (open[to] === 0) order.push(to);
    }
  }
  return { order, next, cyclic: open.flatMap((count, node) => (count > 0 ? [node] : [])) };
}

/** All nodes that come after `start`, over any number of edges, in ascending order, without itself. Cost O(nodes + edges). */
export function findBehind(after: readonly (readonly number[])[], start: number): number[] {
  return followNext(listNext(after), start);
}

/** The same where it is known, for each node, which come after it. */
export function followNext(next: readonly (readonly number[])[], start: number): number[] {
  const seen = new Set<number>();
  const stack = [start];
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    for (const to of next[node] ?? []) {
      if (seen.has(to)) continue;
      seen.add(to);
      stack.push(to);
    }
  }
  seen.delete(start);
  return [...seen].sort((a, b) => a - b);
}

/** For each node, those that wait for it. */
export function listNext(after: readonly (readonly number[])[]): number[][] {
  const next: number[][] = after.map(() => []);
  after.forEach((before, node) => before.forEach((from) => next[from]?.push(node)));
  return next;
}
