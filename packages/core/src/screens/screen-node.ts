import type { Box } from './capture.ts';

/** A node of a page as it stands in the browser, in document order: the one thing that captures are made of. */
export interface ScreenNode {
  /** Place of the node that holds it in the list; −1 for the page's document. */
  readonly parent: number;
  /** Lower case; `#text`, `#document`, `#shadow`. */
  readonly tag: string;
  /** Of a text node. */
  readonly text: string;
  readonly attributes: Readonly<Record<string, string>>;
  /** Null where it is not laid out. */
  readonly box: Box | null;
  /** By its style; that something above it is hidden is another matter. */
  readonly isShown: boolean;
  /** Its CSS display, `` where it is not known. */
  readonly display: string;
  readonly frame: number;
  readonly value: string;
  readonly isChecked: boolean;
  readonly isSelected: boolean;
  readonly handle: number;
}

/** Nodes with what is asked of them again and again. */
export interface ScreenTree {
  readonly nodes: readonly ScreenNode[];
  /** As they are shown: what a host of shadows holds stands where its slots are. */
  readonly childrenOf: readonly (readonly number[])[];
  /** Seen by people: laid out, shown, and nothing above it hidden. */
  readonly isVisible: readonly boolean[];
  /** The node with an id, as seen from a node: ids hold in one document or shadow. */
  readonly findById: (from: number, id: string) => number | undefined;
  /** Labels that name a field, in order. */
  readonly labelsOf: (field: number) => readonly number[];
}

/** Builds the tree of a list of nodes. Cost O(nodes). */
export function createScreenTree(nodes: readonly ScreenNode[]): ScreenTree {
  const plain: number[][] = nodes.map(() => []);
  const scopes: number[] = [];
  const ids = new Map<string, number>();
  nodes.forEach((node, index) => {
    if (node.parent >= 0) plain[node.parent]!.push(index);
    const isRoot = node.tag === '#document' || node.tag === '#shadow';
    const scope = isRoot ? index : (scopes[node.parent] ?? 0);
    scopes.push(scope);
    const id = node.attributes['id'];
    if (id !== undefined && !ids.has(`${scope} ${id}`)) ids.set(`${scope} ${id}`, index);
  });
  const childrenOf = flatten(nodes, plain);
  const findById = (from: number, id: string) => ids.get(`${scopes[from] ?? 0} ${id}`);
  const labels = findLabels(nodes, findById);
  return {
    ...{ nodes, childrenOf, findById },
    isVisible: findVisible(nodes, childrenOf),
    labelsOf: (field) => labels.get(field) ?? [],
  };
}

function flatten(nodes: readonly ScreenNode[], plain: readonly (readonly number[])[]): (readonly number[])[] {
  const flat: (readonly number[])[] = [...plain];
  nodes.forEach((_, host) => {
    const shadow = plain[host]!.find((child) => nodes[child]!.tag === '#shadow');
    if (shadow === undefined) return;
    const light = plain[host]!.filter((child) => child !== shadow);
    flat[host] = [shadow];
    const within = [shadow];
    for (let at = within.pop(); at !== undefined; at = within.pop()) {
      const { tag, attributes } = nodes[at]!;
      const slotted = light.filter((child) => (nodes[child]!.attributes['slot'] ?? '') === (attributes['name'] ?? ''));
      if (tag === 'slot' && slotted.length > 0) flat[at] = slotted;
      else within.push(...plain[at]!);
    }
  });
  return flat;
}

const LABELLED = new Set(['input', 'select', 'textarea', 'button', 'meter', 'output', 'progress']);

function findLabels(nodes: readonly ScreenNode[], findById: ScreenTree['findById']): Map<number, number[]> {
  const labels = new Map<number, number[]>();
  const owned = new Set<number>();
  const note = (field: number | undefined, label: number) => {
    if (field !== undefined) labels.set(field, [...(labels.get(field) ?? []), label]);
  };
  nodes.forEach((node, index) => {
    if (node.tag === 'label' && node.attributes['for'] !== undefined) note(findById(index, node.attributes['for']), index);
    if (!LABELLED.has(node.tag) || node.attributes['type'] === 'hidden') return;
    for (let above = node.parent; above >= 0; above = nodes[above]!.parent) {
      const label = nodes[above]!;
      if (label.tag !== 'label') continue;
      // Only the first field in it is named by a label around it.
      if (label.attributes['for'] === undefined && !owned.has(above)) {
        owned.add(above);
        note(index, above);
      }
      break;
    }
  });
  return labels;
}

/** What a box of a pixel holds is there for screen readers alone. */
const TINY = 1;

function findVisible(nodes: readonly ScreenNode[], childrenOf: readonly (readonly number[])[]): boolean[] {
  const visible: boolean[] = nodes.map(() => false);
  const open = nodes.flatMap((node, index) => (node.parent < 0 ? [{ index, isReachable: true }] : [])).reverse();
  for (let next = open.pop(); next; next = open.pop()) {
    const { tag, box, isShown, display } = nodes[next.index]!;
    const isRoot = tag === '#document' || tag === '#shadow' || display === 'contents';
    const isTiny = box !== null && box.width <= TINY && box.height <= TINY && box.width + box.height > 0;
    const isReachable = next.isReachable && (isRoot || box !== null) && !isTiny;
    visible[next.index] = isReachable && isShown && (isRoot || (box !== null && box.width > 0 && box.height > 0));
    for (const child of [...childrenOf[next.index]!].reverse()) open.push({ index: child, isReachable });
  }
  return visible;
}
