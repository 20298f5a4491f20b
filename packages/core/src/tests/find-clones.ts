import type { Step } from './step.ts';

export interface ClonePlace {
  readonly test: string;
  /** 0-based: where the run begins in that test. */
  readonly at: number;
}

/** A run of steps that stands in several tests. */
export interface Clone {
  readonly length: number;
  readonly places: readonly ClonePlace[];
}

export interface CloneSource {
  readonly test: string;
  readonly steps: readonly Step[];
}

export const SHORTEST_CLONE = 4;

/** What a step does and to what, whatever the value: two tests that fill the same fields differently share their steps. */
function toKey({ do: action, target, within = '', as = '' }: Step): string {
  return `${action}\u0001${target}\u0001${within}\u0001${as}`.toLowerCase();
}

/**
 * The longest common runs of normalised steps: every run of at least `shortest` steps that stands in two tests or more and that
 * cannot be made longer without losing a place. Groups equal k-grams and extends each group to the right. Cost O(steps × length of
 * the longest shared run), which is near linear in a library whose tests have tens of steps.
 */
export function findClones(sources: readonly CloneSource[], shortest = SHORTEST_CLONE): Clone[] {
  const texts = encode(sources);
  const groups = groupStarts(texts, shortest);
  return groups
    .flatMap((group) => extend(texts, group, shortest))
    .map(({ length, starts }) => ({
      length,
      places: starts.map(([test, at]) => ({ test: sources[test]?.test ?? '', at })),
    }))
    .sort((a, b) => b.length * b.places.length - a.length * a.places.length || b.length - a.length);
}

type Start = readonly [test: number, at: number];

/** Steps as numbers; the same number is the same step. */
function encode(sources: readonly CloneSource[]): number[][] {
  const numbers = new Map<string, number>();
  const toNumber = (key: string) => {
    const known = numbers.get(key);
    if (known !== undefined) return known;
    numbers.set(key, numbers.size);
    return numbers.size - 1;
  };
  return sources.map(({ steps }) => steps.map((step) => toNumber(toKey(step))));
}

function groupStarts(texts: readonly number[][], length: number): Start[][] {
  const groups = new Map<string, Start[]>();
  texts.forEach((text, test) => {
    for (let at = 0; at + length <= text.length; at += 1) {
      const key = text.slice(at, at + length).join(' ');
      const group = groups.get(key);
      if (group) group.push([test, at]);
      else groups.set(key, [[test, at]]);
    }
  });
  return [...groups.values()].filter(isShared);
}

const isShared = (starts: readonly Start[]) => starts.some(([test]) => test !== starts[0]?.[0]);

/** A group whose places are all preceded by the same step is part of a longer run that begins earlier. */
function beginsEarlier(texts: readonly number[][], starts: readonly Start[]): boolean {
  const before = (start: Start | undefined) => (start === undefined ? undefined : texts[start[0]]?.[start[1] - 1]);
  const first = before(starts[0]);
  return first !== undefined && starts.every((start) => before(start) === first);
}

function extend(texts: readonly number[][], group: readonly Start[], shortest: number): { length: number; starts: readonly Start[] }[] {
  const found: { length: number; starts: readonly Start[] }[] = [];
  const open = [{ starts: group, length: shortest }];
  for (let current = open.pop(); current; current = open.pop()) {
    const { starts, length } = current;
    const byNext = new Map<number, Start[]>();
    for (const start of starts) {
      const next = texts[start[0]]?.[start[1] + length] ?? -1;
      const same = byNext.get(next);
      if (same) same.push(start);
      else byNext.set(next, [start]);
    }
    const longer = [...byNext].flatMap(([next, more]) => (next >= 0 && isShared(more) ? [more] : []));
    const isWhole = longer.length === 1 && longer[0]?.length === starts.length;
    if (!isWhole && !beginsEarlier(texts, starts)) found.push({ length, starts });
    for (const more of longer) open.push({ starts: more, length: length + 1 });
  }
  return found;
}
