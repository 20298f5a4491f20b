interface Coded {
  readonly code: string;
  readonly parent: string | null;
}

/** Puts every node after its parent and keeps the order of the file otherwise. Without circles; cost O(nodes). */
export function sortParentsFirst<Node extends Coded>(nodes: readonly Node[]): Node[] {
  const byCode = new Map(nodes.map((node) => [node.code, node]));
  const sorted = new Set<Node>();
  const add = (node: Node) => {
    const parent = node.parent === null ? undefined : byCode.get(node.parent);
    if (parent && !sorted.has(parent)) add(parent);
    sorted.add(node);
  };
  nodes.forEach(add);
  return [...sorted];
}
