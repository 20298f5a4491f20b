import { compareNames } from '../values/name-likeness.ts';
import type { Capture, ScreenElement } from './capture.ts';
import { foldWords } from './capture.ts';
import { narrowElements } from './narrow-elements.ts';

/** What a verb is after: somewhere to go, something to fill, pick from, press, or read. */
export type Want = 'place' | 'field' | 'choice' | 'press' | 'shown';

/** A step's words for the thing that it means. */
export interface Target {
  readonly want: Want;
  readonly name: string;
  readonly within?: string | undefined;
  readonly beside?: string | undefined;
}

/** The one element that is meant, or why it cannot be said. */
export type Finding =
  | { readonly kind: 'found'; readonly element: ScreenElement }
  /** Nothing has the name; the nearest names that there are, best first. */
  | { readonly kind: 'none'; readonly nearest: readonly string[] }
  /** More than one has it; what stands beside each tells them apart. */
  | { readonly kind: 'several'; readonly elements: readonly ScreenElement[] }
  | { readonly kind: 'hidden'; readonly element: ScreenElement }
  /** It is there, and takes no change. */
  | { readonly kind: 'fixed'; readonly element: ScreenElement }
  /** What it should stand in, or beside, is not there. */
  | { readonly kind: 'no place'; readonly place: string };

/** Which roles a verb is after, those that come first first. */
const ROLES: Readonly<Record<Want, readonly (readonly string[])[]>> = {
  place: [
    ['link', 'menuitem', 'tab', 'treeitem'],
    ['button', 'option'],
    ['text', 'heading', 'listitem', 'cell'],
  ],
  field: [['textbox', 'searchbox', 'spinbutton'], ['combobox'], ['slider']],
  choice: [
    ['combobox', 'listbox', 'radiogroup', 'group'],
    ['checkbox', 'radio', 'switch'],
  ],
  press: [
    ['button', 'menuitem', 'tab', 'switch'],
    ['link', 'checkbox', 'radio', 'option', 'treeitem', 'gridcell'],
    ['text', 'cell', 'listitem', 'img'],
  ],
  shown: [],
};
const GROUPS = new Set(['radiogroup', 'group']);

const isChanged = (want: Want) => want === 'field' || want === 'choice' || want === 'press';

/**
 * Finds the one thing that a step means. A name holds when it is the accessible name, the label by place or the text, case and white
 * space aside; better kinds of element come first, and of one kind none is preferred. Cost O(elements).
 */
export function findElement(capture: Capture, target: Target): Finding {
  const wanted = foldWords(target.name);
  const named = capture.elements.filter((element) => hasName(element, wanted));
  const tiers = toTiers(named, target.want, wanted);
  const narrowed = narrowElements(capture, tiers.flat(), target);
  if (narrowed.kind === 'no place') return narrowed;
  const isLeft = new Set(narrowed.elements);
  for (const tier of tiers) {
    const left: readonly ScreenElement[] = dropNested(
      capture,
      tier.filter((element) => element.isVisible && isLeft.has(element)),
      target.want,
    );
    const [only, other] = left;
    if (!only) continue;
    if (other) return { kind: 'several', elements: left };
    return isChanged(target.want) && only.isFixed ? { kind: 'fixed', element: only } : { kind: 'found', element: only };
  }
  const hidden = tiers.flat().find((element) => !element.isVisible);
  if (hidden) return { kind: 'hidden', element: hidden };
  return { kind: 'none', nearest: findNearest(capture, target) };
}

const hasName = ({ name, label, text }: ScreenElement, wanted: string) =>
  (name !== '' && foldWords(name) === wanted) ||
  (label !== '' && foldWords(label) === wanted) ||
  (text !== '' && foldWords(text) === wanted);

function toTiers(named: readonly ScreenElement[], want: Want, wanted: string): (readonly ScreenElement[])[] {
  const is = (words: string) => words !== '' && foldWords(words) === wanted;
  if (want === 'shown') {
    const labelled = named.filter(({ name, label, role, text }) => is(label) || (is(name) && (VALUED.has(role) || !is(text))));
    return [
      labelled.filter(({ role }) => VALUED.has(role)),
      labelled.filter(({ role }) => !VALUED.has(role)),
      named.filter(({ text }) => is(text)),
      named,
    ];
  }
  return ROLES[want].map((roles) =>
    named.filter((element) => roles.includes(element.role) && (want !== 'choice' || !GROUPS.has(element.role) || is(element.name))),
  );
}

const VALUED = new Set([
  'textbox',
  'searchbox',
  'spinbutton',
  'combobox',
  'listbox',
  'slider',
  'status',
  'meter',
  'progressbar',
  'checkbox',
  'switch',
]);

/** Of things that hold one another one is meant: what is pressed from outside, what is read from inside. */
function dropNested({ elements }: Capture, found: readonly ScreenElement[], want: Want): ScreenElement[] {
  if (found.length < 2) return [...found];
  const among = new Set(found.map(({ index }) => index));
  const holders = new Set<number>();
  const held = new Set<number>();
  for (const { index, parent } of found)
    for (let at = parent; at >= 0; at = elements[at]!.parent)
      if (among.has(at)) {
        holders.add(at);
        held.add(index);
      }
  const dropped = want === 'shown' ? holders : held;
  return found.filter(({ index }) => !dropped.has(index));
}

const MOST_NEAREST = 3;
const LIKE_ENOUGH = 0.35;

function findNearest({ elements }: Capture, { want, name }: Target): string[] {
  const roles = new Set(ROLES[want].flat());
  const likeness = new Map<string, number>();
  for (const element of elements) {
    if (!element.isVisible || (roles.size > 0 && !roles.has(element.role))) continue;
    const words = element.name || element.label || element.text;
    if (words === '' || words.length > 80 || likeness.has(words)) continue;
    likeness.set(words, compareNames(words, name));
  }
  return [...likeness]
    .filter(([, like]) => like >= LIKE_ENOUGH)
    .sort(([, a], [, b]) => b - a)
    .slice(0, MOST_NEAREST)
    .map(([words]) => words);
}
