import { assertNever } from '../assert-never.ts';
import type { NodePlace, OutlineNode, OutlineTree } from './outline.ts';
import { flattenOutline, getDepth, getHeight, toOutlineTree } from './outline.ts';

/** What else a node holds besides its place: whatever the caller's nodes have. */
type NodeFields<Node extends OutlineNode> = Omit<Node, 'id' | 'parentId' | 'code' | 'name'>;

export type MapEdit<Node extends OutlineNode> =
  | ({ readonly kind: 'add'; readonly name: string; readonly fields?: Partial<NodeFields<Node>> | undefined } & NodePlace)
  | {
      readonly kind: 'change';
      readonly code: string;
      readonly change: Partial<NodeFields<Node> & { readonly code: string; readonly name: string }>;
    }
  | { readonly kind: 'move'; readonly places: readonly NodePlace[] }
  | { readonly kind: 'remove'; readonly codes: readonly string[] };

export interface OutlineRules<Node extends OutlineNode> {
  /** The names of the levels, from the top; nothing goes below the last. */
  readonly levels: readonly string[];
  /** Makes the node of an *add*: its id, and what it takes over from its parent. */
  readonly create: (edit: { readonly code: string; readonly name: string }, parent: Node | null) => Node;
}

export type OutlineEditing<Node extends OutlineNode> =
  | { readonly ok: true; readonly nodes: Node[]; /** What takes all of it back. */ readonly undo: MapEdit<Node>[] }
  | { readonly ok: false; readonly edit: number; readonly message: string };

/** Says why an edit cannot be made; caught by `editOutline`. */
class Refusal extends Error {}

/**
 * Makes edits one after the other: all of them, or none with a sentence that says which one cannot be made. Gives the edits
 * that undo them. Cost O(nodes + edits × siblings).
 */
export function editOutline<Node extends OutlineNode>(
  nodes: readonly Node[],
  edits: readonly MapEdit<Node>[],
  rules: OutlineRules<Node>,
): OutlineEditing<Node> {
  const tree = toOutlineTree(nodes);
  const undo: MapEdit<Node>[] = [];
  for (const [index, edit] of edits.entries()) {
    try {
      undo.unshift(...makeEdit(tree, edit, rules));
    } catch (error) {
      if (error instanceof Refusal) return { ok: false, edit: index, message: error.message };
      throw error;
    }
  }
  return { ok: true, nodes: flattenOutline(tree), undo };
}

function makeEdit<Node extends OutlineNode>(tree: OutlineTree<Node>, edit: MapEdit<Node>, rules: OutlineRules<Node>): MapEdit<Node>[] {
  switch (edit.kind) {
    case 'add':
      return addNode(tree, edit, rules);
    case 'change':
      return changeNode(tree, edit);
    case 'move':
      return moveNodes(tree, edit.places, rules);
    case 'remove':
      return removeNodes(tree, edit.codes);
    default:
      return assertNever(edit);
  }
}

function requireNode<Node extends OutlineNode>(tree: OutlineTree<Node>, code: string): Node {
  const node = tree.byCode.get(code);
  if (!node) throw new Refusal(`There is no node ${code} on the map.`);
  return node;
}

function requireFree<Node extends OutlineNode>(tree: OutlineTree<Node>, code: string): void {
  const taken = tree.byCode.get(code);
  if (taken) throw new Refusal(`The code ${code} is taken by ${taken.name}. Choose another.`);
}

function requireRoom<Node extends OutlineNode>(tree: OutlineTree<Node>, parent: Node | null, height: number, rules: OutlineRules<Node>) {
  const depth = parent === null ? 0 : getDepth(tree, parent) + 1;
  if (depth + height < rules.levels.length) return;
  throw new Refusal(
    parent && depth >= rules.levels.length
      ? `${parent.name} is on the lowest level (${rules.levels.at(-1)}); nothing goes below it.`
      : `Below ${parent?.name ?? 'the top'} this branch would need ${depth + height + 1} levels; the programme has ${rules.levels.length}.`,
  );
}

function insert<Node extends OutlineNode>(tree: OutlineTree<Node>, node: Node, at: number): void {
  const siblings = tree.childrenOf.get(node.parentId) ?? [];
  siblings.splice(Math.min(Math.max(0, at), siblings.length), 0, node);
  tree.childrenOf.set(node.parentId, siblings);
  tree.byCode.set(node.code, node);
  tree.byId.set(node.id, node);
}

/** Replaces a node by another state of itself, where it stands. */
function replace<Node extends OutlineNode>(tree: OutlineTree<Node>, before: Node, after: Node): void {
  const siblings = tree.childrenOf.get(before.parentId) ?? [];
  siblings[siblings.indexOf(before)] = after;
  tree.byCode.delete(before.code);
  tree.byCode.set(after.code, after);
  tree.byId.set(after.id, after);
}

function takeOut<Node extends OutlineNode>(tree: OutlineTree<Node>, node: Node): number {
  const siblings = tree.childrenOf.get(node.parentId) ?? [];
  const at = siblings.indexOf(node);
  siblings.splice(at, 1);
  return at;
}

function addNode<Node extends OutlineNode>(
  tree: OutlineTree<Node>,
  edit: Extract<MapEdit<Node>, { kind: 'add' }>,
  rules: OutlineRules<Node>,
): MapEdit<Node>[] {
  const parent = edit.parent === null ? null : requireNode(tree, edit.parent);
  requireFree(tree, edit.code);
  requireRoom(tree, parent, 0, rules);
  insert(tree, { ...rules.create(edit, parent), ...edit.fields, parentId: parent?.id ?? null }, edit.at);
  return [{ kind: 'remove', codes: [edit.code] }];
}

function changeNode<Node extends OutlineNode>(
  tree: OutlineTree<Node>,
  { code, change }: Extract<MapEdit<Node>, { kind: 'change' }>,
): MapEdit<Node>[] {
  const before = requireNode(tree, code);
  const next = change.code ?? code;
  if (next !== code) requireFree(tree, next);
  replace(tree, before, { ...before, ...change });
  const back: Partial<Node> = {};
  for (const key of Object.keys(change) as (keyof Node)[]) back[key] = before[key];
  return [{ kind: 'change', code: next, change: back as unknown as typeof change }];
}

/** All at once: where each goes is judged by where all of them will be, so that a branch and what lies below it can change places. */
function moveNodes<Node extends OutlineNode>(
  tree: OutlineTree<Node>,
  places: readonly NodePlace[],
  rules: OutlineRules<Node>,
): MapEdit<Node>[] {
  const moved = places.map((place) => ({
    ...{ place, node: requireNode(tree, place.code) },
    parent: place.parent === null ? null : requireNode(tree, place.parent),
  }));
  requireOnce(moved.map(({ node }) => node));
  requireNoCircle(
    tree,
    moved.map(({ node, parent }) => [node, parent?.id ?? null] as const),
  );
  const back = moved
    .map(({ node }) => ({
      code: node.code,
      parent: node.parentId === null ? null : (tree.byId.get(node.parentId)?.code ?? null),
      at: (tree.childrenOf.get(node.parentId) ?? []).indexOf(node),
    }))
    .sort((a, b) => a.at - b.at);
  for (const { node } of moved) takeOut(tree, node);
  for (const { place, node, parent } of moved) insert(tree, { ...node, parentId: parent?.id ?? null }, place.at);
  for (const { node, parent } of moved) requireRoom(tree, parent && (tree.byId.get(parent.id) ?? parent), getHeight(tree, node), rules);
  return [{ kind: 'move', places: back }];
}

function requireOnce<Node extends OutlineNode>(nodes: readonly Node[]): void {
  const twice = nodes.find((node, index) => nodes.indexOf(node) !== index);
  if (twice) throw new Refusal(`${twice.name} is moved to two places at once.`);
}

function requireNoCircle<Node extends OutlineNode>(tree: OutlineTree<Node>, moves: readonly (readonly [Node, string | null])[]): void {
  const parentOf = new Map(moves.map(([node, parent]) => [node.id, parent]));
  for (const [node] of moves) {
    const seen = new Set<string>();
    for (let at = parentOf.get(node.id) ?? null; at !== null && !seen.has(at);) {
      if (at === node.id) throw new Refusal(`${node.name} cannot go below itself.`);
      seen.add(at);
      at = (parentOf.has(at) ? parentOf.get(at) : tree.byId.get(at)?.parentId) ?? null;
    }
  }
}

function removeNodes<Node extends OutlineNode>(tree: OutlineTree<Node>, codes: readonly string[]): MapEdit<Node>[] {
  const back: MapEdit<Node>[] = [];
  for (const code of codes) {
    const top = requireNode(tree, code);
    const branch = [top, ...flattenOutline(tree, top.id)];
    const adds = branch.map((node): MapEdit<Node> => {
      const { id: _id, parentId, code: own, name, ...fields } = node;
      const at = (tree.childrenOf.get(parentId) ?? []).indexOf(node);
      const parent = parentId === null ? null : (tree.byId.get(parentId)?.code ?? null);
      return { kind: 'add', code: own, name, parent, at, fields: fields as Partial<NodeFields<Node>> };
    });
    // What is taken out last comes back first, so that places count as they did.
    back.unshift(...adds);
    takeOut(tree, top);
    for (const node of branch) {
      tree.byCode.delete(node.code);
      tree.byId.delete(node.id);
      tree.childrenOf.delete(node.id);
    }
  }
  return back;
}
