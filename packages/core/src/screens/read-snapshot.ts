import type { Box } from './capture.ts';
import type { ScreenNode } from './screen-node.ts';

interface Rare<Value> {
  readonly index: readonly number[];
  readonly value: readonly Value[];
}
type Flags = Pick<Rare<never>, 'index'>;

interface SnapshotDocument {
  readonly documentURL: number;
  readonly title: number;
  readonly scrollOffsetX?: number;
  readonly scrollOffsetY?: number;
  readonly nodes: {
    readonly parentIndex?: readonly number[];
    readonly nodeType?: readonly number[];
    readonly nodeName?: readonly number[];
    readonly nodeValue?: readonly number[];
    readonly backendNodeId?: readonly number[];
    readonly attributes?: readonly (readonly number[])[];
    readonly shadowRootType?: Rare<number>;
    readonly textValue?: Rare<number>;
    readonly inputValue?: Rare<number>;
    readonly inputChecked?: Flags;
    readonly optionSelected?: Flags;
    readonly contentDocumentIndex?: Rare<number>;
    readonly pseudoType?: Rare<number>;
  };
  readonly layout: {
    readonly nodeIndex: readonly number[];
    readonly bounds: readonly (readonly number[])[];
    readonly styles: readonly (readonly number[])[];
  };
}

/** What `DOMSnapshot.captureSnapshot` of the DevTools protocol answers; indices are into its strings. */
export interface Snapshot {
  readonly documents: readonly SnapshotDocument[];
  readonly strings: readonly string[];
}

/** The styles that a snapshot is asked for, in this order. */
export const SNAPSHOT_STYLES = ['display', 'visibility', 'opacity'] as const;

const ELEMENT = 1;
const TEXT = 3;
const DOCUMENT = 9;
const FRAGMENT = 11;

/** The nodes of a snapshot, the documents of frames where their frames stand. Cost O(nodes). */
export function readSnapshot({ documents, strings }: Snapshot): { nodes: ScreenNode[]; address: string; title: string } {
  const nodes: ScreenNode[] = [];
  const word = (index: number | undefined) => (index === undefined || index < 0 ? '' : (strings[index] ?? ''));
  const first = documents[0];
  if (!first) return { nodes, address: '', title: '' };
  const open = [{ at: 0, parent: -1, origin: { x: 0, y: 0 } }];
  for (let next = open.pop(); next; next = open.pop()) {
    const document = documents[next.at];
    if (!document) continue;
    const from = nodes.length;
    appendDocument(nodes, document, { word, frame: next.at, parent: next.parent, origin: next.origin });
    const frames = document.nodes.contentDocumentIndex;
    frames?.index.forEach((node, k) => {
      const at = frames.value[k] ?? 0;
      const { x, y } = nodes[from + node]?.box ?? { x: 0, y: 0 };
      const inner = documents[at];
      open.push({ at, parent: from + node, origin: { x: x - (inner?.scrollOffsetX ?? 0), y: y - (inner?.scrollOffsetY ?? 0) } });
    });
  }
  return { nodes, address: word(first.documentURL), title: word(first.title) };
}

interface Placed {
  readonly word: (index: number | undefined) => string;
  readonly frame: number;
  readonly parent: number;
  readonly origin: { readonly x: number; readonly y: number };
}

function appendDocument(into: ScreenNode[], document: SnapshotDocument, { word, frame, parent, origin }: Placed): void {
  const { nodes, layout } = document;
  const from = into.length;
  const boxes = new Map<number, Box>();
  const styles = new Map<number, readonly number[]>();
  layout.nodeIndex.forEach((node, k) => {
    const [x = 0, y = 0, width = 0, height = 0] = layout.bounds[k] ?? [];
    if (!boxes.has(node)) boxes.set(node, { x: x + origin.x, y: y + origin.y, width, height });
    if (!styles.has(node)) styles.set(node, layout.styles[k] ?? []);
  });
  const values = toMap(nodes.inputValue, nodes.textValue);
  const checked = new Set(nodes.inputChecked?.index);
  const selected = new Set(nodes.optionSelected?.index);
  const shadows = new Set(nodes.shadowRootType?.index);
  const written = new Set(nodes.pseudoType?.index);
  nodes.nodeType?.forEach((type, index) => {
    const above = nodes.parentIndex?.[index] ?? -1;
    const style = (styles.get(index) ?? []).map(word);
    into.push({
      parent: above < 0 ? parent : from + above,
      tag: written.has(index) ? '#written' : toTag(type, shadows.has(index), word(nodes.nodeName?.[index])),
      text: type === TEXT ? word(nodes.nodeValue?.[index]) : '',
      attributes: type === ELEMENT ? readAttributes(nodes.attributes?.[index] ?? [], word) : NONE,
      box: boxes.get(index) ?? null,
      isShown: style[1] !== 'hidden' && style[1] !== 'collapse' && style[2] !== '0',
      display: style[0] ?? '',
      frame,
      value: word(values.get(index)),
      isChecked: checked.has(index),
      isSelected: selected.has(index),
      handle: nodes.backendNodeId?.[index] ?? 0,
    });
  });
}

const NONE: ScreenNode['attributes'] = {};

function toTag(type: number, isShadow: boolean, name: string): string {
  if (type === TEXT) return '#text';
  if (type === DOCUMENT) return '#document';
  if (type === FRAGMENT) return isShadow ? '#shadow' : '#fragment';
  return type === ELEMENT ? name.toLowerCase() : '#other';
}

function toMap(...lists: readonly (Rare<number> | undefined)[]): Map<number, number> {
  return new Map(lists.flatMap((list) => list?.index.map((node, k) => [node, list.value[k] ?? -1] as const) ?? []));
}

function readAttributes(pairs: readonly number[], word: Placed['word']): Record<string, string> {
  const attributes: Record<string, string> = {};
  for (let k = 0; k + 1 < pairs.length; k += 2) attributes[word(pairs[k]).toLowerCase()] = word(pairs[k + 1]);
  return attributes;
}
