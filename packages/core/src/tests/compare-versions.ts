import type { Step } from './step.ts';

/** How a step of one version became one of another. */
export type StepDifference =
  | { readonly kind: 'same'; readonly before: PlacedStep; readonly after: PlacedStep }
  | { readonly kind: 'changed'; readonly before: PlacedStep; readonly after: PlacedStep; readonly fields: readonly (keyof Step)[] }
  | { readonly kind: 'moved'; readonly before: PlacedStep; readonly after: PlacedStep }
  | { readonly kind: 'added'; readonly after: PlacedStep }
  | { readonly kind: 'removed'; readonly before: PlacedStep };

export interface PlacedStep {
  /** 0-based. */
  readonly index: number;
  readonly step: Step;
}

const FIELDS = [
  'do',
  'target',
  'within',
  'beside',
  'value',
  'expect',
  'keepAs',
  'optional',
  'as',
] as const satisfies readonly (keyof Step)[];

const toKey = (step: Step) => JSON.stringify(FIELDS.map((field) => step[field] ?? null));

/**
 * Compares two versions step by step, in the order of the newer one. Unchanged steps are the longest common subsequence (Wagner &
 * Fischer 1974); of the rest, a step that stands elsewhere unchanged has moved, one that does the same to the same thing in the same
 * gap has changed. Cost O(n × m).
 */
export function compareVersions(before: readonly Step[], after: readonly Step[]): StepDifference[] {
  const pairs = matchSame(before.map(toKey), after.map(toKey));
  const moved = matchMoved(before, after, pairs);
  const changed = matchChanged(before, after, { pairs, moved });
  return arrange(before, after, { pairs, moved, changed });
}

type Pairs = ReadonlyMap<number, number>;

/** Before → after of the longest common subsequence. */
function matchSame(before: readonly string[], after: readonly string[]): Map<number, number> {
  const width = after.length + 1;
  const lengths = new Uint16Array((before.length + 1) * width);
  for (let i = before.length - 1; i >= 0; i -= 1)
    for (let j = after.length - 1; j >= 0; j -= 1)
      lengths[i * width + j] =
        before[i] === after[j]
          ? (lengths[(i + 1) * width + j + 1] ?? 0) + 1
          : Math.max(lengths[(i + 1) * width + j] ?? 0, lengths[i * width + j + 1] ?? 0);
  const pairs = new Map<number, number>();
  for (let i = 0, j = 0; i < before.length && j < after.length;) {
    if (before[i] === after[j]) pairs.set(i++, j++);
    else if ((lengths[(i + 1) * width + j] ?? 0) >= (lengths[i * width + j + 1] ?? 0)) i += 1;
    else j += 1;
  }
  return pairs;
}

function matchMoved(before: readonly Step[], after: readonly Step[], pairs: Pairs): Map<number, number> {
  const free = new Map<string, number[]>();
  const taken = new Set(pairs.values());
  after.forEach((step, index) => {
    if (!taken.has(index)) free.set(toKey(step), [...(free.get(toKey(step)) ?? []), index]);
  });
  const moved = new Map<number, number>();
  before.forEach((step, index) => {
    const to = pairs.has(index) ? undefined : free.get(toKey(step))?.shift();
    if (to !== undefined) moved.set(index, to);
  });
  return moved;
}

/** In each gap between unchanged steps: first the same thing, then the same action, in order. */
function matchChanged(
  before: readonly Step[],
  after: readonly Step[],
  { pairs, moved }: { pairs: Pairs; moved: Pairs },
): Map<number, number> {
  const changed = new Map<number, number>();
  const taken = new Set([...pairs.values(), ...moved.values()]);
  const isLike = [
    (a: Step, b: Step) => a.do === b.do && a.target === b.target,
    (a: Step, b: Step) => a.target === b.target || (a.do === b.do && (a.value ?? '') === (b.value ?? '') && a.value !== undefined),
    (a: Step, b: Step) => a.do === b.do,
  ];
  for (const like of isLike) {
    before.forEach((step, index) => {
      if (pairs.has(index) || moved.has(index) || changed.has(index)) return;
      const [from, to] = findGap(index, after.length, pairs);
      for (let j = from; j < to; j += 1) {
        const other = after[j];
        if (!other || taken.has(j) || !like(step, other)) continue;
        changed.set(index, j);
        taken.add(j);
        return;
      }
    });
  }
  return changed;
}

/** The places of the newer version between the unchanged neighbours of a step of the older one. */
function findGap(index: number, end: number, pairs: Pairs): [number, number] {
  let from = 0;
  for (const [i, j] of pairs) {
    if (i > index) return [from, j];
    from = j + 1;
  }
  return [from, end];
}

interface Matches {
  readonly pairs: Pairs;
  readonly moved: Pairs;
  readonly changed: Pairs;
}

function arrange(before: readonly Step[], after: readonly Step[], { pairs, moved, changed }: Matches): StepDifference[] {
  const back = new Map<number, { index: number; kind: 'same' | 'moved' | 'changed' }>();
  for (const [kind, map] of [
    ['same', pairs],
    ['moved', moved],
    ['changed', changed],
  ] as const)
    for (const [i, j] of map) back.set(j, { index: i, kind });
  const isGone = (index: number) => !pairs.has(index) && !moved.has(index) && !changed.has(index);
  const rows: StepDifference[] = [];
  let told = 0;
  const tellGone = (upTo: number) => {
    for (; told < upTo; told += 1) {
      const step = before[told];
      if (step && isGone(told)) rows.push({ kind: 'removed', before: { index: told, step } });
    }
  };
  after.forEach((step, index) => {
    const match = back.get(index);
    const old = match && before[match.index];
    if (!match || !old) {
      rows.push({ kind: 'added', after: { index, step } });
      return;
    }
    if (match.kind !== 'moved') tellGone(match.index);
    const row = { before: { index: match.index, step: old }, after: { index, step } };
    rows.push(
      match.kind === 'changed'
        ? { kind: 'changed', ...row, fields: FIELDS.filter((field) => (old[field] ?? '') !== (step[field] ?? '')) }
        : { kind: match.kind, ...row },
    );
  });
  tellGone(before.length);
  return rows;
}
