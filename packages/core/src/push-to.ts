/** Adds to the list that a map holds under a key (mutates the map). */
export function pushTo<Key, Value>(map: Map<Key, Value[]>, key: Key, value: Value): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}
