/**
 * The process map as an outline: nodes in map order (depth first), each with its parent. Edits speak of codes, since codes are
 * what people see, and are unique in a programme.
 */
export interface OutlineNode {
  readonly id: string;
  readonly parentId: string | null;
  readonly code: string;
  readonly name: string;
}

/** Where a node goes: below a parent's code (null: at the top), as so many-th child, counted without the nodes that are moved. */
export interface NodePlace {
  readonly code: string;
  readonly parent: string | null;
  readonly at: number;
}

export interface OutlineTree<Node extends OutlineNode> {
  readonly byCode: Map<string, Node>;
  readonly byId: Map<string, Node>;
  /** Children in order, by their parent's id; null holds the top. */
  readonly childrenOf: Map<string | null, Node[]>;
}

/** Cost O(nodes). */
export function toOutlineTree<Node extends OutlineNode>(nodes: readonly Node[]): OutlineTree<Node> {
  const childrenOf = new Map<string | null, Node[]>();
  for (const node of nodes) {
    const siblings = childrenOf.get(node.parentId);
    if (siblings) siblings.push(node);
    else childrenOf.set(node.parentId, [node]);
  }
  return {
    childrenOf,
    byCode: new Map(nodes.map((node) => [node.code, node])),
    byId: new Map(nodes.map((node) => [node.id, node])),
  };
}

/** The nodes in map order. Cost O(nodes). */
export function flattenOutline<Node extends OutlineNode>(tree: OutlineTree<Node>, from: string | null = null): Node[] {
  const flat: Node[] = [];
  const visit = (id: string | null) => {
    for (const node of tree.childrenOf.get(id) ?? []) {
      flat.push(node);
      visit(node.id);
    }
  };
  visit(from);
  return flat;
}

/** How many nodes stand above this one. */
export function getDepth<Node extends OutlineNode>(tree: OutlineTree<Node>, node: OutlineNode): number {
  let depth = 0;
  for (let at = node.parentId; at !== null; at = tree.byId.get(at)?.parentId ?? null) depth += 1;
  return depth;
}

/** How many levels the branch below a node has; 0 for a node with nothing below. */
export function getHeight<Node extends OutlineNode>(tree: OutlineTree<Node>, node: OutlineNode): number {
  return Math.max(-1, ...(tree.childrenOf.get(node.id) ?? []).map((child) => getHeight(tree, child))) + 1;
}

/** Whether `code` is `above` or lies somewhere below it. */
export function isWithin<Node extends OutlineNode>(tree: OutlineTree<Node>, code: string, above: string): boolean {
  for (let at = tree.byCode.get(code); at; at = at.parentId === null ? undefined : tree.byId.get(at.parentId)) {
    if (at.code === above) return true;
  }
  return false;
}
