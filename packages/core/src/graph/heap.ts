/** A binary heap: the smallest by a comparison comes out first. Push and pop cost O(log n). */
export interface Heap<Item> {
  readonly size: () => number;
  readonly peek: () => Item | undefined;
  readonly push: (item: Item) => void;
  readonly pop: () => Item | undefined;
}

export function createHeap<Item>(isBefore: (a: Item, b: Item) => boolean): Heap<Item> {
  const items: Item[] = [];
  const swap = (a: number, b: number) => ([items[a], items[b]] = [items[b]!, items[a]!]);
  const rise = (from: number) => {
    for (let at = from; at > 0;) {
      const parent = (at - 1) >> 1;
      if (!isBefore(items[at]!, items[parent]!)) return;
      swap(at, parent);
      at = parent;
    }
  };
  const sink = () => {
    for (let at = 0; ;) {
      const [left, right] = [2 * at + 1, 2 * at + 2];
      let least = at;
      if (left < items.length && isBefore(items[left]!, items[least]!)) least = left;
      if (right < items.length && isBefore(items[right]!, items[least]!)) least = right;
      if (least === at) return;
      swap(at, least);
      at = least;
    }
  };
  return {
    size: () => items.length,
    peek: () => items[0],
    push: (item) => {
      items.push(item);
      rise(items.length - 1);
    },
    pop: () => {
      const first = items[0];
      const last = items.pop();
      if (items.length > 0 && last !== undefined) {
        items[0] = last;
        sink();
      }
      return first;
    },
  };
}
