import { pushTo } from '../push-to.ts';

/** A run of equal items that stands in several texts. */
export interface SharedRun {
  readonly length: number;
  /** Where it stands: the text, and its first item there; 0-based. */
  readonly starts: readonly Start[];
}

type Start = readonly [text: number, at: number];

/** Texts of keys as texts of numbers; the same number is the same key. */
export function encodeTexts(texts: readonly (readonly string[])[]): number[][] {
  const numbers = new Map<string, number>();
  const toNumber = (key: string) => {
    const known = numbers.get(key);
    if (known !== undefined) return known;
    numbers.set(key, numbers.size);
    return numbers.size - 1;
  };
  return texts.map((text) => text.map(toNumber));
}

/**
 * The longest common runs: every run of at least `shortest` items that stands in two texts or more and that cannot be made longer without
 * losing a place. Groups equal k-grams and extends each group to the right. Cost O(items × length of the longest shared run).
 */
export function findSharedRuns(texts: readonly (readonly number[])[], shortest: number): SharedRun[] {
  return groupStarts(texts, shortest).flatMap((group) => extend(texts, group, shortest));
}

function groupStarts(texts: readonly (readonly number[])[], length: number): Start[][] {
  const groups = new Map<string, Start[]>();
  texts.forEach((text, number) => {
    for (let at = 0; at + length <= text.length; at += 1) {
      const key = text.slice(at, at + length).join(' ');
      pushTo(groups, key, [number, at]);
    }
  });
  return [...groups.values()].filter(isShared);
}

const isShared = (starts: readonly Start[]) => starts.some(([text]) => text !== starts[0]?.[0]);

/** A group whose places are all preceded by the same step is part of a longer run that begins earlier. */
function beginsEarlier(texts: readonly (readonly number[])[], starts: readonly Start[]): boolean {
  const before = (start: Start | undefined) => (start === undefined ? undefined : texts[start[0]]?.[start[1] - 1]);
  const first = before(starts[0]);
  return first !== undefined && starts.every((start) => before(start) === first);
}

function extend(texts: readonly (readonly number[])[], group: readonly Start[], shortest: number): SharedRun[] {
  const found: SharedRun[] = [];
  const open = [{ starts: group, length: shortest }];
  for (let current = open.pop(); current; current = open.pop()) {
    const { starts, length } = current;
    const byNext = new Map<number, Start[]>();
    for (const start of starts) {
      const next = texts[start[0]]?.[start[1] + length] ?? -1;
      pushTo(byNext, next, start);
    }
    const longer = [...byNext].flatMap(([next, more]) => (next >= 0 && isShared(more) ? [more] : []));
    const isWhole = longer.length === 1 && longer[0]?.length === starts.length;
    if (!isWhole && !beginsEarlier(texts, starts)) found.push({ length, starts });
    for (const more of longer) open.push({ starts: more, length: length + 1 });
  }
  return found;
}
