const SEPARATORS = /[.\-_/ ]/;

/**
 * The parent that each code has by its own shape: `1.2.3` lies in `1.2`, `NS-2.1` in `NS-2`, `1113` in `111`; a range such as
 * `31-33` holds what begins with 31, 32 or 33. A step that is missing is passed over (`1.2.3` lies in `1` when there is no
 * `1.2`). Null where no code holds it. Cost O(codes × length).
 */
export function findCodeParents(codes: readonly string[]): (string | null)[] {
  const known = new Set(codes);
  const ranges = new Map(codes.flatMap((code) => listRange(code).map((part) => [part, code] as const)));
  const find = (begin: string, code: string) => (begin !== code && known.has(begin) ? begin : (ranges.get(begin) ?? null));
  return codes.map((code) => {
    const hasParts = SEPARATORS.test(code) && listRange(code).length === 0;
    for (let length = code.length - 1; length > 0; length -= 1) {
      const isCut = SEPARATORS.test(code[length] ?? '');
      if (hasParts && !isCut && !/^\d+$/.test(code.slice(0, length + 1))) continue;
      const found = find(code.slice(0, length).replace(/[.\-_/ ]+$/, ''), code);
      if (found !== null && found !== code) return found;
    }
    return null;
  });
}

/** `31-33` is a range of numbers of one length; anything else is none. */
function listRange(code: string): string[] {
  const match = /^(\d+)\s*[-–]\s*(\d+)$/.exec(code);
  const [from, to] = [match?.[1] ?? '', match?.[2] ?? ''];
  if (!match || from.length !== to.length || Number(to) <= Number(from) || Number(to) - Number(from) > 50) return [];
  return Array.from({ length: Number(to) - Number(from) + 1 }, (_, step) => String(Number(from) + step).padStart(from.length, '0'));
}
