/** Adds to the list that a map holds under a key (mutates the map). */
export function pushTo<Key, Value>(map: Map<Key, Value[]>, key: Key, value: Value): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}

/** Values by a key; each list keeps the order in which its values stood. */
export function groupBy<Key, Value>(values: readonly Value[], keyOf: (value: Value) => Key): Map<Key, Value[]> {
  const groups = new Map<Key, Value[]>();
  for (const value of values) pushTo(groups, keyOf(value), value);
  return groups;
}
