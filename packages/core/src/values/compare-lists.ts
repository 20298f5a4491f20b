/** How an item of one list became one of another; places are 0-based. */
export type ListDifference<Item> =
  | { readonly kind: 'same' | 'changed' | 'moved'; readonly before: Placed<Item>; readonly after: Placed<Item> }
  | { readonly kind: 'added'; readonly after: Placed<Item> }
  | { readonly kind: 'removed'; readonly before: Placed<Item> };

interface Placed<Item> {
  readonly index: number;
  readonly item: Item;
}

export interface Likeness<Item> {
  /** Items with one key are the same. */
  readonly toKey: (item: Item) => string;
  /** What makes one item the successor of another, the surest sign first. */
  readonly likes: readonly ((a: Item, b: Item) => boolean)[];
}

/**
 * Compares two lists, in the order of the newer one. Unchanged items are the longest common subsequence (Wagner & Fischer 1974); of the
 * rest, one that stands elsewhere unchanged has moved, one that is like another in the same gap has changed. Cost O(n × m).
 */
export function compareLists<Item>(
  before: readonly Item[],
  after: readonly Item[],
  { toKey, likes }: Likeness<Item>,
): ListDifference<Item>[] {
  const [keysBefore, keysAfter] = [before.map(toKey), after.map(toKey)];
  const pairs = matchSame(keysBefore, keysAfter);
  const moved = matchMoved(keysBefore, keysAfter, pairs);
  const changed = matchChanged(before, after, { pairs, moved, likes });
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

function matchMoved(before: readonly string[], after: readonly string[], pairs: Pairs): Map<number, number> {
  const free = new Map<string, number[]>();
  const taken = new Set(pairs.values());
  after.forEach((key, index) => {
    if (!taken.has(index)) free.set(key, [...(free.get(key) ?? []), index]);
  });
  const moved = new Map<number, number>();
  before.forEach((key, index) => {
    const to = pairs.has(index) ? undefined : free.get(key)?.shift();
    if (to !== undefined) moved.set(index, to);
  });
  return moved;
}

/** In each gap between unchanged items, by one sign of likeness after the other, in order. */
function matchChanged<Item>(
  before: readonly Item[],
  after: readonly Item[],
  { pairs, moved, likes }: { pairs: Pairs; moved: Pairs; likes: Likeness<Item>['likes'] },
): Map<number, number> {
  const changed = new Map<number, number>();
  const taken = new Set([...pairs.values(), ...moved.values()]);
  for (const isLike of likes) {
    before.forEach((item, index) => {
      if (pairs.has(index) || moved.has(index) || changed.has(index)) return;
      const [from, to] = findGap(index, after.length, pairs);
      for (let j = from; j < to; j += 1) {
        const other = after[j];
        if (other === undefined || taken.has(j) || !isLike(item, other)) continue;
        changed.set(index, j);
        taken.add(j);
        return;
      }
    });
  }
  return changed;
}

/** The places of the newer version between the unchanged neighbours of an item of the older one. */
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

function arrange<Item>(before: readonly Item[], after: readonly Item[], { pairs, moved, changed }: Matches): ListDifference<Item>[] {
  const back = new Map<number, { index: number; kind: 'same' | 'moved' | 'changed' }>();
  for (const [kind, map] of [
    ['same', pairs],
    ['moved', moved],
    ['changed', changed],
  ] as const)
    for (const [i, j] of map) back.set(j, { index: i, kind });
  const isGone = (index: number) => !pairs.has(index) && !moved.has(index) && !changed.has(index);
  const rows: ListDifference<Item>[] = [];
  let told = 0;
  const tellGone = (upTo: number) => {
    for (; told < upTo; told += 1) {
      const item = before[told];
      if (item !== undefined && isGone(told)) rows.push({ kind: 'removed', before: { index: told, item } });
    }
  };
  after.forEach((item, index) => {
    const match = back.get(index);
    const old = match && before[match.index];
    if (!match || old === undefined) {
      rows.push({ kind: 'added', after: { index, item } });
      return;
    }
    if (match.kind !== 'moved') tellGone(match.index);
    rows.push({ kind: match.kind, before: { index: match.index, item: old }, after: { index, item } });
  });
  tellGone(before.length);
  return rows;
}
