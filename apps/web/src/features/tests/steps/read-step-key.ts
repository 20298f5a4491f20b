/** Which steps are marked, and from which a stretch is marked with Shift. */
export interface Marks {
  readonly marked: ReadonlySet<number>;
  readonly anchor: number;
}
export const NO_MARKS: Marks = { marked: new Set(), anchor: 0 };

/** A click on a step's number: it is marked or not; with Shift all from the last clicked one to it are. */
export function markStep({ marked, anchor }: Marks, index: number, isStretch: boolean): Marks {
  if (isStretch) {
    const [from, to] = [Math.min(anchor, index), Math.max(anchor, index)];
    return { anchor, marked: new Set(Array.from({ length: to - from + 1 }, (_, at) => from + at)) };
  }
  const next = new Set(marked);
  if (!next.delete(index)) next.add(index);
  return { anchor: index, marked: next };
}

export interface StepKey {
  readonly key: string;
  readonly altKey: boolean;
  readonly shiftKey: boolean;
  /** Ctrl, or ⌘. */
  readonly isCommand: boolean;
  /** It was pressed in a field of text. */
  readonly isInText: boolean;
}

export interface StepPlace {
  /** The step that has the focus. */
  readonly index: number;
  readonly marked: ReadonlySet<number>;
  readonly count: number;
}

/** What a key asks for in the table of steps; it works on the marked ones, else on the one that has the focus. */
export type StepAct =
  | { readonly kind: 'insert'; readonly index: number }
  | { readonly kind: 'move'; readonly indexes: readonly number[]; readonly by: -1 | 1; readonly focus: number }
  | { readonly kind: 'remove' | 'duplicate'; readonly indexes: readonly number[]; readonly focus: number }
  | { readonly kind: 'unmark' }
  | { readonly kind: 'walk'; readonly index: number }
  /** The key is one of the table's, and leads nowhere from here. */
  | { readonly kind: 'nothing' };

/** undefined: the key is none of the table's. */
export function readStepKey({ key, altKey, shiftKey, isCommand, isInText }: StepKey, place: StepPlace): StepAct | undefined {
  const { index, marked } = place;
  const by = key === 'ArrowUp' ? -1 : key === 'ArrowDown' ? 1 : undefined;
  if (key === 'Enter' && !shiftKey && !isCommand && isInText) return { kind: 'insert', index: index + 1 };
  if (altKey && by !== undefined) return move(place, by);
  if (altKey && key === 'Delete') return actOn('remove', place);
  if (isCommand && key.toLowerCase() === 'd') return actOn('duplicate', place);
  if (key === 'Escape' && marked.size > 0) return { kind: 'unmark' };
  return by !== undefined && !isCommand ? { kind: 'walk', index: index + by } : undefined;
}

const listChosen = ({ index, marked }: StepPlace): readonly number[] => (marked.size > 0 ? [...marked] : [index]);

function move(place: StepPlace, by: -1 | 1): StepAct {
  const indexes = listChosen(place);
  const isOut = indexes.some((at) => at + by < 0 || at + by >= place.count);
  return isOut ? { kind: 'nothing' } : { kind: 'move', indexes, by, focus: place.index + by };
}

export function actOn(kind: 'remove' | 'duplicate', place: StepPlace): StepAct {
  const indexes = listChosen(place);
  return { kind, indexes, focus: kind === 'remove' ? Math.max(0, Math.min(...indexes) - 1) : Math.max(...indexes) + 1 };
}

/** Pasted steps behind one, or in its place where that is empty. */
export function laySteps<Step extends { readonly target: string }>(steps: readonly Step[], pasted: readonly Step[], index: number): Step[] {
  const isEmpty = steps[index]?.target === '';
  const next = [...steps];
  next.splice(isEmpty ? index : index + 1, isEmpty ? 1 : 0, ...pasted);
  return next;
}
