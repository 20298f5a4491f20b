import type { Capture, ScreenElement } from './capture.ts';
import { foldWords } from './capture.ts';

interface Places {
  readonly within?: string | undefined;
  readonly beside?: string | undefined;
}
type Narrowed =
  { readonly kind: 'left'; readonly elements: readonly ScreenElement[] } | { readonly kind: 'no place'; readonly place: string };

/** Of some elements those that can be reached, stand in the named part of the screen, and beside the named words. */
export function narrowElements(capture: Capture, found: readonly ScreenElement[], { within, beside }: Places): Narrowed {
  let left = found.filter((element) => isReachable(capture, element));
  if (within !== undefined && !isPage(capture, within)) {
    const parts = listParts(capture, within);
    if (parts.length === 0) return { kind: 'no place', place: within };
    left = left.filter((element) => parts.some((part) => part(element)));
  }
  if (beside === undefined) return { kind: 'left', elements: left };
  const words = foldWords(beside);
  const marks = capture.elements.filter(
    ({ isVisible, text, value, name }) => isVisible && [text, value, name].some((own) => own !== '' && foldWords(own) === words),
  );
  if (marks.length === 0) return { kind: 'no place', place: beside };
  return { kind: 'left', elements: keepBeside(capture, left, marks) };
}

/** What lies under a dialog that must be answered first cannot be reached. */
function isReachable(capture: Capture, element: ScreenElement): boolean {
  const modal = capture.elements.findLast(({ isModal, isVisible }) => isModal && isVisible);
  return !modal || isIn(capture, element, modal.index);
}

/** The page's own name, or the application's, narrows nothing. */
function isPage({ title, elements }: Capture, within: string): boolean {
  const words = foldWords(within);
  const head = elements.find(({ role, isVisible }) => role === 'banner' && isVisible);
  return (
    foldWords(title)
      .split(/ [-–|·] /)
      .includes(words) ||
    (head !== undefined && foldWords(head.text).startsWith(words))
  );
}

const PARTS = new Set([
  ...[
    'region',
    'group',
    'form',
    'dialog',
    'alertdialog',
    'table',
    'grid',
    'navigation',
    'main',
    'complementary',
    'list',
    'tabpanel',
    'search',
  ],
  ...['article', 'document', 'radiogroup', 'toolbar', 'menu', 'row', 'listitem', 'treegrid', 'banner', 'contentinfo', 'tablist'],
]);

/** Parts of the screen of a name: what is called so, and what stands under a heading of it. */
function listParts(capture: Capture, within: string): ((element: ScreenElement) => boolean)[] {
  const words = foldWords(within);
  const { elements } = capture;
  const named = elements
    .filter(({ role, name }) => PARTS.has(role) && name !== '' && foldWords(name) === words)
    .map(
      ({ index }) =>
        (element: ScreenElement) =>
          isIn(capture, element, index),
    );
  const headed = elements
    .filter(({ role, text, name, isVisible }) => role === 'heading' && isVisible && [text, name].some((own) => foldWords(own) === words))
    .map((heading) => {
      const next = elements.find(
        ({ index, role, level, isVisible }) => index > heading.index && role === 'heading' && isVisible && level <= heading.level,
      );
      const to = next?.index ?? Infinity;
      const holder = elements[heading.parent];
      return (element: ScreenElement) =>
        element.index > heading.index &&
        element.index < to &&
        (holder === undefined || holder.role === 'document' || isIn(capture, element, holder.index));
    });
  return [...named, ...headed];
}

function isIn({ elements }: Capture, { index }: ScreenElement, part: number): boolean {
  for (let at = index; at >= 0; at = elements[at]!.parent) if (at === part) return true;
  return false;
}

/** Those in the row of the words; where there is no such row, those on their line, the nearest on each. */
function keepBeside(capture: Capture, found: readonly ScreenElement[], marks: readonly ScreenElement[]): ScreenElement[] {
  const rowOf = (element: ScreenElement) => {
    for (let at: ScreenElement | undefined = element; at; at = capture.elements[at.parent])
      if (at.role === 'row' || at.role === 'listitem') return at.index;
    return undefined;
  };
  const rows = new Set(marks.flatMap((mark) => rowOf(mark) ?? []));
  const inRow = found.filter((element) => rows.has(rowOf(element) ?? -1));
  if (inRow.length > 0) return inRow;
  const nearest = marks.flatMap((mark) => {
    const inLine = found.filter((element) => element.frame === mark.frame && element.index !== mark.index && isInLine(element, mark));
    return inLine.sort((a, b) => distance(a, mark) - distance(b, mark))[0] ?? [];
  });
  return [...new Set(nearest)];
}

const isInLine = ({ box: a }: ScreenElement, { box: b }: ScreenElement) =>
  Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y) >= Math.min(a.height, b.height) / 2;
const distance = ({ box: a }: ScreenElement, { box: b }: ScreenElement) => Math.abs(a.x + a.width / 2 - (b.x + b.width / 2));
