import type { Box, ScreenElement } from './capture.ts';
import { isField } from './roles.ts';

/** A label is no farther to the left than this, nor higher above. */
const FAR_PX = 420;
const HIGH_PX = 36;

/**
 * The words that people read as the label of each field and text without an accessible name, by its index: in a table with headings that of its
 * column, else those to the left in the same line, else those above; for boxes to tick those to the right first. Nothing lies between.
 * Cost O(elements · those in its line).
 */
export function labelByPlace(elements: readonly ScreenElement[]): Map<number, string> {
  const words = toLines(elements.filter((element) => element.isVisible && element.text !== '' && isWords(element)));
  const fields = toLines(elements.filter(({ isVisible, role }) => isVisible && isField(role)));
  const columns = findColumns(elements);
  const labels = new Map<number, string>();
  for (const element of elements) {
    if (!element.isVisible || !takesLabel(element)) continue;
    const label = columns(element) ?? findLabel(element, words, fields);
    if (label) labels.set(element.index, label.text);
  }
  return labels;
}

const WORDS = new Set([
  'text',
  'cell',
  'rowheader',
  'columnheader',
  'term',
  'definition',
  'status',
  'legend',
  'caption',
  'listitem',
  'heading',
]);
const isWords = ({ role }: ScreenElement) => WORDS.has(role);
const takesLabel = ({ role, name }: ScreenElement) =>
  isField(role) ? name === '' : role === 'text' || role === 'definition' || role === 'cell' || role === 'status';

/** The heading of the column in which something of a table stands. */
function findColumns(elements: readonly ScreenElement[]): (element: ScreenElement) => ScreenElement | undefined {
  const above = (element: ScreenElement, roles: ReadonlySet<string>) => {
    for (let at: ScreenElement | undefined = element; at; at = elements[at.parent]) if (roles.has(at.role)) return at;
    return undefined;
  };
  const headings = new Map<number, ScreenElement[]>();
  for (const element of elements) {
    if (element.role !== 'columnheader' || !element.isVisible) continue;
    const table = above(element, TABLES);
    if (table) headings.set(table.index, [...(headings.get(table.index) ?? []), element]);
  }
  return (element) => {
    if (headings.size === 0) return undefined;
    const cell = above(element, CELLS);
    const table = cell && above(cell, TABLES);
    const middle = cell ? cell.box.x + cell.box.width / 2 : 0;
    return table && headings.get(table.index)?.find(({ box }) => box.x <= middle && middle <= box.x + box.width);
  };
}
const TABLES = new Set(['table', 'grid', 'treegrid']);
const CELLS = new Set(['cell', 'gridcell', 'rowheader']);

const LINE_PX = 24;
const MOST_BANDS = 40;
const bandOf = (y: number) => Math.floor(y / LINE_PX);

type Near = (frame: number, box: Box) => readonly ScreenElement[];

/** Elements by the bands of height that they touch. */
function toLines(elements: readonly ScreenElement[]): Near {
  const frames: ScreenElement[][][] = [];
  for (const element of elements) {
    const bands = (frames[element.frame] ??= []);
    const from = Math.max(0, bandOf(element.box.y));
    const to = Math.min(from + MOST_BANDS, bandOf(element.box.y + element.box.height));
    for (let band = from; band <= to; band += 1) (bands[band] ??= []).push(element);
  }
  return (frame, box) => {
    const bands = frames[frame] ?? [];
    const from = Math.max(0, bandOf(box.y));
    const to = Math.min(from + MOST_BANDS, bandOf(box.y + box.height));
    if (from >= to) return bands[from] ?? [];
    const near = new Set<ScreenElement>();
    for (let band = from; band <= to; band += 1) for (const element of bands[band] ?? []) near.add(element);
    return [...near];
  };
}

function findLabel(element: ScreenElement, words: Near, fields: Near): ScreenElement | undefined {
  const { box, role, frame } = element;
  const others = words(frame, box).filter((other) => other.index !== element.index && !holds(other.box, box) && !holds(box, other.box));
  const isTicked = role === 'checkbox' || role === 'radio' || role === 'switch';
  const right = isTicked ? nearest(others, (other) => (isInLine(other.box, box) ? gap(box, other.box) : Infinity)) : undefined;
  if (right) return right;
  const left = nearest(others, (other) => (isInLine(other.box, box) ? gap(other.box, box) : Infinity));
  if (
    left &&
    !fields(frame, box).some((field) => field.index !== element.index && isInLine(field.box, box) && lies(left.box, field.box, box))
  )
    return left;
  if (!isField(role) && role !== 'definition') return undefined;
  const higher = { ...box, y: box.y - HIGH_PX, height: HIGH_PX };
  return nearest(words(frame, higher), (other) =>
    other.index !== element.index && isOver(other.box, box) && !holds(other.box, box)
      ? box.y - (other.box.y + other.box.height) + HIGH_PX
      : Infinity,
  );
}

function nearest(others: readonly ScreenElement[], distance: (other: ScreenElement) => number): ScreenElement | undefined {
  let best: ScreenElement | undefined;
  let least = FAR_PX;
  for (const other of others) {
    const far = distance(other);
    if (far < least) [best, least] = [other, far];
  }
  return best;
}

/** How far the second begins right of where the first ends; Infinity where it does not. */
const gap = (first: Box, second: Box) => {
  const px = second.x - (first.x + first.width);
  return px >= -2 ? px : Infinity;
};
const lies = (left: Box, between: Box, right: Box) => between.x >= left.x + left.width - 2 && between.x + between.width <= right.x + 2;
const holds = (outer: Box, inner: Box) =>
  outer.x <= inner.x + 1 &&
  outer.y <= inner.y + 1 &&
  outer.x + outer.width >= inner.x + inner.width - 1 &&
  outer.y + outer.height >= inner.y + inner.height - 1;
const isInLine = (a: Box, b: Box) => Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y) >= Math.min(a.height, b.height) / 2;
const isOver = (above: Box, below: Box) =>
  above.y + above.height <= below.y + 4 &&
  below.y - (above.y + above.height) <= HIGH_PX &&
  Math.min(above.x + above.width, below.x + below.width) - Math.max(above.x, below.x) > 0;
