import type { Capture, ScreenElement } from './capture.ts';
import { foldWords } from './capture.ts';
import type { Target } from './find-element.ts';
import { narrowElements } from './narrow-elements.ts';
import { readShown } from './read-shown.ts';

/** A list as people see it: what its items show, and the headings of its columns. */
export interface ShownList {
  readonly items: readonly string[];
  readonly headings: readonly string[];
}

const TABLES = new Set(['table', 'grid', 'treegrid']);
const CELLS = new Set(['cell', 'gridcell', 'rowheader']);
const HEADS = new Set(['columnheader']);

/**
 * The list that a name means: the rows of the table that is called so or stands below a heading of the name; else the cells of the column that is
 * headed so; else all things of the name. Rows are shown by their cells; what is typed into a cell counts as what it shows. Cost O(elements).
 */
export function listUnder(capture: Capture, { name, within }: Pick<Target, 'name' | 'within'>): ShownList {
  const words = foldWords(name);
  const { elements } = capture;
  const isCalled = (element: ScreenElement) => [element.name, element.text].some((own) => own !== '' && foldWords(own) === words);
  const named = elements.filter((element) => element.isVisible && isCalled(element));
  const narrowed = narrowElements(capture, named, { within });
  const found = narrowed.kind === 'left' ? narrowed.elements : [];
  const heading = found.find(({ role }) => role === 'heading' || role === 'caption');
  const table = found.find(({ role }) => TABLES.has(role)) ?? (heading && findTable(elements, heading));
  if (table) return readTable(elements, table);
  const column = found.find(({ role }) => HEADS.has(role));
  if (column) return { items: readColumn(elements, column), headings: [name] };
  return { items: found.map(readShown), headings: [] };
}

/** The table that holds a caption, or comes next after a heading and before another. */
function findTable(elements: readonly ScreenElement[], heading: ScreenElement): ScreenElement | undefined {
  const around = elements[heading.parent];
  if (around && TABLES.has(around.role)) return around;
  const next = elements.find(
    ({ index, role, isVisible }) => index > heading.index && isVisible && (TABLES.has(role) || role === 'heading'),
  );
  return next && TABLES.has(next.role) ? next : undefined;
}

function isIn(elements: readonly ScreenElement[], element: ScreenElement, holder: ScreenElement): boolean {
  for (let at = element.parent; at >= 0; at = elements[at]!.parent) if (at === holder.index) return true;
  return false;
}

function readTable(elements: readonly ScreenElement[], table: ScreenElement): ShownList {
  const inside = elements.filter((element) => element.isVisible && element.index > table.index && isIn(elements, element, table));
  const rows = inside.filter(({ role }) => role === 'row');
  const hasCells = (row: ScreenElement) => inside.some((cell) => CELLS.has(cell.role) && isIn(elements, cell, row));
  return {
    items: rows.filter(hasCells).map(readShown),
    headings: inside.filter(({ role }) => HEADS.has(role)).map(({ text, name }) => text || name),
  };
}

/** The cells whose middle stands below a heading, in its table. */
function readColumn(elements: readonly ScreenElement[], heading: ScreenElement): string[] {
  let table = elements[heading.parent];
  while (table && !TABLES.has(table.role)) table = elements[table.parent];
  if (!table) return [];
  const { x, width } = heading.box;
  return elements
    .filter((cell) => {
      const middle = cell.box.x + cell.box.width / 2;
      return cell.isVisible && CELLS.has(cell.role) && middle >= x && middle <= x + width && isIn(elements, cell, table);
    })
    .map((cell) => {
      const field = elements.find((inner) => inner.parent === cell.index && inner.value !== '');
      return field ? field.value : readShown(cell);
    });
}
