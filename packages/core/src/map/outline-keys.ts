import type { NodePlace, OutlineNode, OutlineTree } from './outline.ts';
import { isWithin } from './outline.ts';

/** The ways in which chosen nodes are moved by keys. */
export type OutlineKey = 'indent' | 'outdent' | 'up' | 'down';

/** The chosen nodes without those that lie below another chosen one, in map order. */
export function takeTopmost<Node extends OutlineNode>(
  tree: OutlineTree<Node>,
  nodes: readonly Node[],
  chosen: ReadonlySet<string>,
): Node[] {
  return nodes.filter(
    ({ code, parentId }) =>
      chosen.has(code) && ![...chosen].some((other) => other !== code && parentId !== null && isWithin(tree, code, other)),
  );
}

/**
 * Where the chosen nodes go: *indent* below the sibling above them, *outdent* right after their parent, *up* and *down* past
 * a sibling. Null when there is nowhere to go, or the chosen ones do not stand together under one parent. Cost O(nodes).
 */
export function placeByKey<Node extends OutlineNode>(
  tree: OutlineTree<Node>,
  chosen: readonly Node[],
  key: OutlineKey,
): readonly NodePlace[] | null {
  const [first] = chosen;
  if (!first || chosen.some((node) => node.parentId !== first.parentId)) return null;
  const siblings = tree.childrenOf.get(first.parentId) ?? [];
  const rest = siblings.filter((node) => !chosen.includes(node));
  const start = siblings.indexOf(first);
  const before = siblings.slice(0, start).filter((node) => rest.includes(node));
  const parent = first.parentId === null ? null : (tree.byId.get(first.parentId) ?? null);
  const put = (parentCode: string | null, at: number) => chosen.map(({ code }, index) => ({ code, parent: parentCode, at: at + index }));
  switch (key) {
    case 'indent': {
      const above = before.at(-1);
      return above ? put(above.code, tree.childrenOf.get(above.id)?.length ?? 0) : null;
    }
    case 'outdent': {
      if (!parent) return null;
      const aunts = tree.childrenOf.get(parent.parentId) ?? [];
      const grand = parent.parentId === null ? null : (tree.byId.get(parent.parentId)?.code ?? null);
      return put(grand, aunts.indexOf(parent) + 1);
    }
    case 'up':
      return before.length > 0 ? put(parent?.code ?? null, before.length - 1) : null;
    case 'down':
      return before.length < rest.length ? put(parent?.code ?? null, before.length + 1) : null;
  }
}
