/** Whether two plain values are the same, whatever the order of their fields; a field that is undefined is none. Cost O(size). */
export function isSame(a: unknown, b: unknown): boolean {
  return JSON.stringify(toSorted(a)) === JSON.stringify(toSorted(b));
}

function toSorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(toSorted);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([x], [y]) => (x < y ? -1 : 1))
      .map(([key, inner]) => [key, toSorted(inner)]),
  );
}
