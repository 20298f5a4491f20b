import { getRole, isNamedByContent } from './roles.ts';
import type { ScreenTree } from './screen-node.ts';

interface Walk {
  /** Followed from aria-labelledby: it is not followed twice. */
  readonly isReferenced: boolean;
  /** Inside a label or a name that is being put together. */
  readonly isPart: boolean;
  /** What is hidden counts, since something hidden was named. */
  readonly takesHidden: boolean;
  readonly visited: Set<number>;
}

/**
 * The accessible name of an element by *Accessible Name and Description Computation 1.2* (W3C), steps 2A to 2I; what style sheets write
 * before and after is left out. `` where it has none.
 */
export function computeName(tree: ScreenTree, index: number): string {
  return tidy(nameOf(tree, index, { isReferenced: false, isPart: false, takesHidden: false, visited: new Set() }));
}

const tidy = (text: string) => text.replace(/\s+/g, ' ').trim();

function nameOf(tree: ScreenTree, index: number, walk: Walk): string {
  const node = tree.nodes[index]!;
  if (node.tag === '#text') return node.text;
  if (walk.visited.has(index)) return '';
  walk.visited.add(index);
  if (!walk.takesHidden && walk.isPart && isHidden(tree, index)) return '';
  const role = getRole(node);
  const said = walk.isReferenced ? '' : followLabelledBy(tree, index, walk);
  if (said !== '') return said;
  if (walk.isPart) {
    const held = readHeld(tree, index, role);
    if (held !== undefined) return held;
  }
  const spoken = tidy(node.attributes['aria-label'] ?? '');
  if (spoken !== '') return spoken;
  const native = nameByHtml(tree, index, walk);
  if (tidy(native) !== '') return native;
  if (isNamedByContent(role) || walk.isPart) {
    const content = nameByContent(tree, index, { ...walk, isPart: true });
    if (tidy(content) !== '') return content;
  }
  return node.attributes['title'] ?? (isTyped(role) ? (node.attributes['placeholder'] ?? node.attributes['aria-placeholder'] ?? '') : '');
}

const isTyped = (role: string) => role === 'textbox' || role === 'searchbox' || role === 'spinbutton' || role === 'combobox';

function isHidden({ nodes, isVisible, childrenOf }: ScreenTree, index: number): boolean {
  const node = nodes[index]!;
  if (node.attributes['aria-hidden'] === 'true' || node.attributes['hidden'] !== undefined) return true;
  if (!node.isShown) return true;
  return node.box === null && node.display !== 'contents' && !isVisible[index] && !childrenOf[index]!.some((child) => isVisible[child]);
}

function followLabelledBy(tree: ScreenTree, index: number, walk: Walk): string {
  const ids = tidy(tree.nodes[index]!.attributes['aria-labelledby'] ?? '');
  if (ids === '') return '';
  const names = ids.split(' ').flatMap((id) => {
    const target = tree.findById(index, id);
    if (target === undefined) return [];
    const visited = new Set(walk.visited);
    // It may name itself, to add to its own words.
    visited.delete(target);
    return [nameOf(tree, target, { isReferenced: true, isPart: true, takesHidden: isHidden(tree, target), visited })];
  });
  return tidy(names.join(' '));
}

/** What a field inside a label holds is part of the name (2C). */
function readHeld(tree: ScreenTree, index: number, role: string): string | undefined {
  const node = tree.nodes[index]!;
  if (role === 'textbox' || role === 'searchbox') return node.tag === 'input' || node.tag === 'textarea' ? node.value : undefined;
  if (role === 'combobox' || role === 'listbox') return readSelected(tree, index) ?? node.value;
  if (role === 'slider' || role === 'spinbutton')
    return node.attributes['aria-valuetext'] ?? node.attributes['aria-valuenow'] ?? node.value;
  return undefined;
}

/** The options that are picked in a list, by their words. */
export function readSelected(tree: ScreenTree, index: number): string | undefined {
  const options = listOptions(tree, index);
  const selected = options.filter((option) => isPicked(tree, option));
  return options.length === 0 ? undefined : selected.map((option) => readContent(tree, option)).join(', ');
}

const isPicked = ({ nodes }: ScreenTree, option: number) => {
  const { isSelected, attributes } = nodes[option]!;
  return isSelected || attributes['aria-selected'] === 'true';
};

/** The options of a list, in order. */
export function listOptions(tree: ScreenTree, index: number): number[] {
  return tree.childrenOf[index]!.flatMap((child) => (getRole(tree.nodes[child]!) === 'option' ? [child] : listOptions(tree, child)));
}

/** The words in an element, whatever it is. */
export function readContent(tree: ScreenTree, index: number): string {
  const node = tree.nodes[index]!;
  if (node.tag === '#text') return node.text;
  return tidy(tree.childrenOf[index]!.map((child) => spaced(tree, child, readContent(tree, child))).join(''));
}

const BUTTON_WORDS: Readonly<Record<string, string>> = { submit: 'Submit', reset: 'Reset', image: 'Submit' };
const HEADS: Readonly<Record<string, string>> = { fieldset: 'legend', table: 'caption', figure: 'figcaption', svg: 'title' };

/** What HTML says of its own elements (2E; HTML Accessibility API Mappings 1.0, section 4.1). */
function nameByHtml(tree: ScreenTree, index: number, walk: Walk): string {
  const { tag, attributes, value } = tree.nodes[index]!;
  const type = tag === 'input' ? (attributes['type'] ?? 'text').toLowerCase() : '';
  if (type === 'button' || type === 'submit' || type === 'reset') return attributes['value'] ?? (value || (BUTTON_WORDS[type] ?? ''));
  if (tag === 'img' || tag === 'area') return attributes['alt'] ?? '';
  if (type === 'image') return attributes['alt'] ?? attributes['value'] ?? BUTTON_WORDS['image']!;
  const labels = walk.isPart && !walk.isReferenced ? [] : tree.labelsOf(index);
  if (labels.length > 0)
    return tidy(labels.map((label) => nameOf(tree, label, { ...walk, isPart: true, visited: new Set(walk.visited) })).join(' '));
  const head = HEADS[tag];
  const found = head && tree.childrenOf[index]!.find((child) => tree.nodes[child]!.tag === head);
  return found === undefined || found === '' ? '' : nameByContent(tree, found, { ...walk, isPart: true });
}

const INLINE = /^(inline|contents|none|)$/;
const BLOCKS = new Set([
  ...['address', 'article', 'aside', 'blockquote', 'br', 'dd', 'details', 'div', 'dl', 'dt', 'fieldset', 'figure', 'footer', 'form', 'h1'],
  ...['h2', 'h3', 'h4', 'h5', 'h6', 'header', 'hr', 'input', 'li', 'main', 'nav', 'ol', 'option', 'p', 'pre', 'section', 'select', 'table'],
  ...['td', 'textarea', 'th', 'tr', 'ul'],
]);

/** Blocks stand apart from what is before and after them; words in a line do not. */
function spaced({ nodes }: ScreenTree, index: number, text: string): string {
  const { tag, display } = nodes[index]!;
  const isInline = tag === '#text' || (display === '' ? !BLOCKS.has(tag) : INLINE.test(display) && !BLOCKS.has(tag));
  return isInline ? text : ` ${text} `;
}

function nameByContent(tree: ScreenTree, index: number, walk: Walk): string {
  return tree.childrenOf[index]!.map((child) => spaced(tree, child, nameOf(tree, child, { ...walk, isReferenced: false }))).join('');
}
