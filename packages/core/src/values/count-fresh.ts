import { FRESH_SETS } from './fresh.ts';
import { parsePattern } from './pattern.ts';

/** How many different values a pattern of `{new …}` has. */
export function countFreshValues(pattern: string): number {
  return parsePattern(pattern).reduce((count, part) => (part.kind === 'itself' ? count : count * FRESH_SETS[part.kind].length), 1);
}

/**
 * After how many values drawn at random from `count` a repeat is as likely as not: 365 → 23 (the birthday problem: R. von Mises 1939;
 * W. Feller, An Introduction to Probability Theory, volume 1, II.3). Exact by multiplying up to a billion, then √(2 n ln 2) + ½.
 */
export function countUntilRepeat(count: number): number {
  if (count <= 1) return 2;
  if (count > 1e9) return Math.ceil(Math.sqrt(2 * count * Math.LN2) + 0.5);
  let apart = 1;
  for (let drawn = 1; ; drawn += 1) {
    apart *= 1 - (drawn - 1) / count;
    if (apart <= 0.5) return drawn;
  }
}
