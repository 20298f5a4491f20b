import { computeName, listOptions, readContent, readSelected } from './accessible-name.ts';
import type { Box, Capture, ScreenElement } from './capture.ts';
import { labelByPlace } from './label-by-place.ts';
import { getLevel, getRole, isField } from './roles.ts';
import type { ScreenNode, ScreenTree } from './screen-node.ts';
import { createScreenTree } from './screen-node.ts';

/** Its label is found when all stand. */
type Draft = Omit<ScreenElement, 'label'> & { label: string };

const NO_OPTIONS: readonly string[] = [];
const NO_BOX: Box = { x: 0, y: 0, width: 0, height: 0 };
const LEFT_OUT = new Set([
  'script',
  'style',
  'head',
  'title',
  'meta',
  'link',
  'template',
  'noscript',
  'slot',
  'html',
  '#document',
  '#shadow',
]);

/** A screen as data from the nodes of a page: elements that have a role or words of their own. Cost about O(nodes · depth). */
export function createCapture(nodes: readonly ScreenNode[], page: Pick<Capture, 'address' | 'title'>): Capture {
  const tree = createScreenTree(nodes);
  const elements: Draft[] = [];
  const roots = nodes.flatMap((node, index) => (node.parent < 0 ? [index] : []));
  const open = roots.map((at) => ({ at, parent: -1 })).reverse();
  for (let next = open.pop(); next; next = open.pop()) {
    const element = toElement(tree, next.at, { index: elements.length, parent: next.parent });
    if (element) elements.push(element);
    const parent = element?.index ?? next.parent;
    for (const child of [...tree.childrenOf[next.at]!].reverse()) open.push({ at: child, parent });
  }
  for (const [index, label] of labelByPlace(elements)) elements[index]!.label = label;
  return { ...page, elements };
}

function toElement(tree: ScreenTree, at: number, place: Pick<ScreenElement, 'index' | 'parent'>): Draft | undefined {
  const node = tree.nodes[at]!;
  if (node.tag.startsWith('#') || LEFT_OUT.has(node.tag)) return undefined;
  const role = getRole(node);
  const hasWords = tree.childrenOf[at]!.some((child) => isWord(tree.nodes[child]!)) || isLineOfParts(tree, at);
  if (role === '' && !hasWords) return undefined;
  const { attributes } = node;
  const isHeld = isField(role);
  const isOptioned = role === 'combobox' || role === 'listbox';
  // One plain object: thousands are made for a screen, and spreading costs more than all else.
  return {
    index: place.index,
    role: role === '' || role === 'paragraph' || role === 'label' ? 'text' : role,
    name: computeName(tree, at),
    text: hasWords || role === 'cell' || role === 'row' || role === 'status' ? readVisible(tree, at) : '',
    label: '',
    value: isHeld ? readValue(tree, at, role) : '',
    box: node.box ?? NO_BOX,
    parent: place.parent,
    frame: node.frame,
    isVisible: isSeen(tree, at, role),
    isFixed: isFixed(tree, at),
    isChecked: isChecked(node),
    isModal: attributes['aria-modal'] === 'true' || (node.tag === 'dialog' && attributes['open'] !== undefined),
    level: getLevel(node, role),
    options: isOptioned ? listOptions(tree, at).map((option) => readContent(tree, option)) : NO_OPTIONS,
    handle: node.handle,
    isSecret: node.tag === 'input' && attributes['type'] === 'password',
    kind: node.tag === 'input' ? (attributes['type'] ?? 'text').toLowerCase() : '',
  };
}

const isWord = ({ tag, text }: ScreenNode) => tag === '#text' && /\S/.test(text);

/** One line whose words stand in pieces, each in an element of its own: “1”, “item”, “left”. */
function isLineOfParts({ nodes, childrenOf }: ScreenTree, at: number): boolean {
  const parts = childrenOf[at]!.filter((child) => !nodes[child]!.tag.startsWith('#'));
  const worded = parts.filter((child) => childrenOf[child]!.some((inner) => isWord(nodes[inner]!)));
  return worded.length > 1 && parts.every((child) => nodes[child]!.display === 'inline');
}

/** A field that is drawn by something else above it has no look of its own, and is there all the same. */
function isSeen(tree: ScreenTree, at: number, role: string): boolean {
  if (tree.isVisible[at]) return true;
  const { box, isShown, attributes } = tree.nodes[at]!;
  if (isField(role) && !isShown && box !== null && box.width * box.height > 1 && attributes['hidden'] === undefined)
    return isAboveVisible(tree, at);
  return box === null || box.width * box.height === 0 ? tree.childrenOf[at]!.some((child) => tree.isVisible[child]) : false;
}

const isAboveVisible = ({ nodes, isVisible }: ScreenTree, at: number) => isVisible[nodes[at]!.parent] ?? false;

function isChecked({ isChecked: checked, attributes }: ScreenNode): boolean {
  return checked || attributes['aria-checked'] === 'true' || attributes['aria-pressed'] === 'true';
}

function isFixed({ nodes }: ScreenTree, at: number): boolean {
  const { attributes } = nodes[at]!;
  if (attributes['disabled'] !== undefined || attributes['readonly'] !== undefined) return true;
  if (attributes['aria-disabled'] === 'true' || attributes['aria-readonly'] === 'true') return true;
  for (let above = nodes[at]!.parent; above >= 0; above = nodes[above]!.parent)
    if (nodes[above]!.tag === 'fieldset' && nodes[above]!.attributes['disabled'] !== undefined) return true;
  return false;
}

function readValue(tree: ScreenTree, at: number, role: string): string {
  const { attributes, value, tag } = tree.nodes[at]!;
  if (tag === 'input' && attributes['type'] === 'password') return '';
  if (role === 'checkbox' || role === 'radio' || role === 'switch') return isChecked(tree.nodes[at]!) ? 'on' : 'off';
  if (role === 'combobox' || role === 'listbox') return readSelected(tree, at) ?? (value || (attributes['value'] ?? ''));
  if (tag === 'input' || tag === 'textarea') return value || (tag === 'input' ? (attributes['value'] ?? '') : '');
  return attributes['aria-valuetext'] ?? attributes['aria-valuenow'] ?? readVisible(tree, at);
}

/** The words in an element that can be seen; what is typed into fields is none of them. */
function readVisible(tree: ScreenTree, at: number): string {
  const words: string[] = [];
  const open = [at];
  for (let index = open.pop(); index !== undefined; index = open.pop()) {
    const node = tree.nodes[index];
    if (node === undefined) words.push(' ');
    else if (node.tag === '#text') {
      if (tree.isVisible[index]) words.push(node.text);
    } else if (!isUnread(node)) {
      // Blocks stand apart from what is before and after them.
      const isBlock = node.display !== '' && !node.display.startsWith('inline');
      if (isBlock) open.push(BREAK);
      open.push(...[...tree.childrenOf[index]!].reverse());
      if (isBlock) open.push(BREAK);
    }
  }
  return words.join('').replace(/\s+/g, ' ').trim();
}

const BREAK = -1;
const isUnread = ({ tag }: ScreenNode) =>
  tag === 'select' || tag === 'textarea' || (LEFT_OUT.has(tag) && tag !== 'slot' && tag !== '#shadow' && tag !== '#document');
