const NUMBERED = /^(.*?)(\d+)$/;

/**
 * The next free code after those that stand nearby: of the beginning that most of them share, one above the highest number that any code has with
 * it, as wide as they are (“BIL-09”, “BIL-12” → “BIL-13”). Where none nearby is numbered, `first` begins. Cost O(codes).
 */
export function proposeNextCode({
  near,
  all,
  first,
}: {
  readonly near: readonly string[];
  readonly all: readonly string[];
  readonly first: string;
}): string {
  const counts = new Map<string, number>();
  for (const code of near) {
    const start = NUMBERED.exec(code)?.[1];
    if (start !== undefined) counts.set(start, (counts.get(start) ?? 0) + 1);
  }
  const [start] = [...counts].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))[0] ?? [NUMBERED.exec(first)?.[1] ?? first];
  const digits = all.flatMap((code) => {
    const found = NUMBERED.exec(code);
    return found?.[1]?.toLowerCase() === start.toLowerCase() ? [found[2] ?? ''] : [];
  });
  if (digits.length === 0) return first.startsWith(start) && NUMBERED.test(first) ? first : `${start}1`;
  const next = digits.reduce((highest, text) => Math.max(highest, Number(text)), 0) + 1;
  return `${start}${String(next).padStart(Math.max(...digits.map(({ length }) => length)), '0')}`;
}
