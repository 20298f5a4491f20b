import { pushTo } from '../push-to.ts';

/** Gives what is stored under a key, each once and in order: a list that names two things alike means two things. */
export function createTaker<Item>(items: readonly Item[], toKey: (item: Item) => string): (key: string) => Item | undefined {
  const left = new Map<string, Item[]>();
  for (const item of items) pushTo(left, toKey(item), item);
  return (key) => left.get(key)?.shift();
}
