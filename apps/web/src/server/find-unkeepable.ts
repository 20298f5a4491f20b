/** A NUL, or one half of a character alone: PostgreSQL keeps neither, and no keyboard makes them. */
const UNKEEPABLE = /\u0000|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/;

/** The place of a text that cannot be kept, as a path of names; null: all can. Looks into objects and lists. Cost O(size). */
export function findUnkeepable(value: unknown, path: readonly string[] = []): readonly string[] | null {
  if (typeof value === 'string') return UNKEEPABLE.test(value) ? path : null;
  if (typeof value !== 'object' || value === null) return null;
  for (const [name, inner] of Object.entries(value)) {
    if (UNKEEPABLE.test(name)) return path;
    const found = findUnkeepable(inner, [...path, name]);
    if (found) return found;
  }
  return null;
}
