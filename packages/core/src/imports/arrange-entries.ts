import { pushTo } from '../push-to.ts';

interface Coded {
  readonly code: string | null;
  /** Code of its parent; null: it stands at the top. */
  readonly parent: string | null;
}

interface Arranged<Item> {
  readonly item: Item;
  /** The place of its parent among those arranged; −1: none of them is. */
  readonly parent: number;
  /** A parent that is not among the items, by code. */
  readonly outerParent: string | null;
}

/**
 * Puts parents before their children, keeping the order of the file among siblings. What is its own parent in the end has no place, and comes
 * apart. Where a code stands twice, the last has the children. Cost O(items).
 */
export function arrangeEntries<Item extends Coded>(
  items: readonly Item[],
): { readonly arranged: readonly Arranged<Item>[]; readonly circles: readonly Item[] } {
  const at = new Map(items.map(({ code }, index) => [code ?? `#${index}`, index]));
  const below = new Map<number, number[]>();
  items.forEach(({ parent }, index) => pushTo(below, parent === null ? -1 : (at.get(parent) ?? -1), index));
  const arranged: Arranged<Item>[] = [];
  const placed = new Set<number>();
  const stack = [...(below.get(-1) ?? [])].reverse().map((index) => ({ index, parent: -1 }));
  for (let next = stack.pop(); next; next = stack.pop()) {
    const item = items[next.index];
    if (!item) continue;
    placed.add(next.index);
    const place = arranged.push({ item, parent: next.parent, outerParent: next.parent < 0 ? item.parent : null }) - 1;
    for (const child of [...(below.get(next.index) ?? [])].reverse()) stack.push({ index: child, parent: place });
  }
  return { arranged, circles: items.filter((_, index) => !placed.has(index)) };
}
