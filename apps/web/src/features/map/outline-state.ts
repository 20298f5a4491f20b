import type { MapEditInput, MapNode, MapView } from '@kindred-baton/contracts/map/node';
import { proposeCode } from '@kindred-baton/core/map/code-scheme';
import type { OutlineTree } from '@kindred-baton/core/map/outline';
import { toOutlineTree } from '@kindred-baton/core/map/outline';
import { takeTopmost } from '@kindred-baton/core/map/outline-keys';
import type { OutlineLine } from '@kindred-baton/core/map/parse-outline-text';

/** Where a new node is being typed: below `parent`, as so many-th child. */
export interface NewPlace {
  readonly parent: string | null;
  readonly at: number;
  readonly depth: number;
  /** The row that it stands under on the screen; null: first. */
  readonly under: string | null;
}

/** A new sibling right below the chosen node, or its first child; at the end of the top without one. */
export function placeNew(
  tree: OutlineTree<MapNode>,
  chosen: MapNode | undefined,
  kind: 'sibling' | 'child',
  shown: readonly MapNode[],
): NewPlace {
  if (!chosen) {
    const tops = tree.childrenOf.get(null) ?? [];
    return { parent: null, at: tops.length, depth: 0, under: shown.at(-1)?.code ?? null };
  }
  if (kind === 'child') {
    const inside = tree.childrenOf.get(chosen.id) ?? [];
    return { parent: chosen.code, at: inside.length, depth: chosen.depth + 1, under: findLastShown(shown, chosen).code };
  }
  const siblings = tree.childrenOf.get(chosen.parentId) ?? [];
  const parent = chosen.parentId === null ? null : (tree.byId.get(chosen.parentId)?.code ?? null);
  return { parent, at: siblings.indexOf(chosen) + 1, depth: chosen.depth, under: findLastShown(shown, chosen).code };
}

/** The last row of a branch as it is shown. */
function findLastShown(shown: readonly MapNode[], top: MapNode): MapNode {
  const start = shown.indexOf(top);
  let last = top;
  for (let index = start + 1; index < shown.length; index += 1) {
    const row = shown[index];
    if (!row || row.depth <= top.depth) break;
    last = row;
  }
  return last;
}

export function toAddEdit(view: MapView, place: NewPlace, name: string): Extract<MapEditInput, { kind: 'add' }> {
  const taken = new Set(view.nodes.map(({ code }) => code));
  const code = proposeCode({ scheme: view.codeScheme, depth: place.depth, parent: place.parent, name, isTaken: (each) => taken.has(each) });
  return { kind: 'add', code, name, parent: place.parent, at: place.at };
}

/** A pasted outline as edits: its top lines go below `place`, the others below the line above them. */
export function toPasteEdits(
  view: MapView,
  place: Pick<NewPlace, 'parent' | 'at' | 'depth'>,
  lines: readonly OutlineLine[],
): MapEditInput[] {
  const taken = new Set(view.nodes.map(({ code }) => code));
  const path: string[] = [];
  let at = place.at;
  return lines.map(({ depth, code: given, name }): MapEditInput => {
    const parent = depth === 0 ? place.parent : (path[depth - 1] ?? place.parent);
    const isTaken = (code: string) => taken.has(code);
    const isFree = given !== null && !taken.has(given) && /^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$/.test(given);
    const code = isFree ? given : proposeCode({ scheme: view.codeScheme, depth: place.depth + depth, parent, name, isTaken });
    taken.add(code);
    path.splice(depth, path.length, code);
    return { kind: 'add', code, name: name.slice(0, 200), parent, at: depth === 0 ? at++ : 100_000 };
  });
}

export type DropKind = 'before' | 'inside' | 'after';

/** Where dragged nodes go when they are let go at a row: before it, after it, or into it as its last children. */
export function toDropEdit(nodes: readonly MapNode[], dragged: ReadonlySet<string>, target: MapNode, kind: DropKind): MapEditInput | null {
  const tree = toOutlineTree(nodes);
  const moved = takeTopmost(tree, nodes, dragged);
  if (moved.length === 0 || moved.includes(target)) return null;
  const parentId = kind === 'inside' ? target.id : target.parentId;
  const parent = parentId === null ? null : (tree.byId.get(parentId)?.code ?? null);
  const rest = (tree.childrenOf.get(parentId) ?? []).filter((node) => !moved.includes(node));
  const at = kind === 'inside' ? rest.length : rest.indexOf(target) + (kind === 'after' ? 1 : 0);
  return { kind: 'move', places: moved.map(({ code }, index) => ({ code, parent, at: at + index })) };
}

/** The rows that are shown: without what lies in closed branches. */
export function listShown(nodes: readonly MapNode[], closed: ReadonlySet<string>): MapNode[] {
  const shown: MapNode[] = [];
  let hiddenBelow = Infinity;
  for (const node of nodes) {
    if (node.depth > hiddenBelow) continue;
    hiddenBelow = closed.has(node.code) ? node.depth : Infinity;
    shown.push(node);
  }
  return shown;
}
