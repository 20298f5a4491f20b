/** What the history keeps of a change: what was there of the same, and what is there now. */
export function toDifference<Row extends object>(
  row: Row,
  change: object,
): { before: Record<string, unknown>; after: Record<string, unknown> } {
  const after = Object.fromEntries(Object.entries(change).filter(([, value]) => value !== undefined));
  return { before: Object.fromEntries(Object.keys(after).map((name) => [name, row[name as keyof Row]])), after };
}
