import { toNameKey } from './field.ts';

/**
 * How alike two names are, 0 to 1: the share of letter pairs that they have in common (L. R. Dice 1945; S. White's use for words). “Meter
 * serial” and “Serial of meter” are alike, “Quote no.” and “Permit no.” are not. Cost O(length).
 */
export function compareNames(a: string, b: string): number {
  const [left, right] = [toPairs(a), toPairs(b)];
  const whole = left.length + right.length;
  if (whole === 0) return toNameKey(a) === toNameKey(b) ? 1 : 0;
  const free = [...right];
  let shared = 0;
  for (const pair of left) {
    const at = free.indexOf(pair);
    if (at < 0) continue;
    free.splice(at, 1);
    shared += 1;
  }
  const likeness = (2 * shared) / whole;
  return likeness >= ALMOST || sharesWord(a, b) ? likeness : likeness / 2;
}

/** Names without a word in common are alike only when they are almost the same: “Plan” is no “Plant”. */
const ALMOST = 0.9;

function sharesWord(a: string, b: string): boolean {
  const words = new Set(toWords(a));
  return toWords(b).some((word) => words.has(word));
}

/** Words that stand in every other name say little. */
const COMMON = /\b(?:no|number|id|code|ref|reference|of|the)\b/gu;

function toWords(name: string): string[] {
  return toNameKey(name)
    .replace(/[^\p{L}\d ]/gu, '')
    .replace(COMMON, '')
    .split(' ')
    .filter((word) => word !== '');
}

function toPairs(name: string): string[] {
  return toWords(name).flatMap((word) => Array.from({ length: Math.max(0, word.length - 1) }, (_, i) => word.slice(i, i + 2)));
}
