/** The next code among siblings: NS-2.1, NS-2.2 → NS-2.3; below a stream NS → NS-1; at the top none is guessed. */
export function proposeCode(parent: string | null, siblings: readonly string[]): string {
  if (parent === null) return '';
  const numbers = siblings.map((code) => Number(/(\d+)$/.exec(code)?.[1] ?? 0));
  const next = Math.max(0, ...numbers) + 1;
  const last = siblings.at(-1);
  if (last !== undefined && /\d+$/.test(last)) return last.replace(/\d+$/, String(next));
  return `${parent}${/\d$/.test(parent) ? '.' : '-'}${next}`;
}
