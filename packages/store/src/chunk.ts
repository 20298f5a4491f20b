/** Cuts a list into pieces that fit one statement: PostgreSQL takes at most 65,535 parameters. */
export function chunk<T>(items: readonly T[], size = 1_000): T[][] {
  const pieces: T[][] = [];
  for (let at = 0; at < items.length; at += size) pieces.push(items.slice(at, at + size));
  return pieces;
}
