import { parsePattern } from './pattern.ts';

const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ';
const DIGITS = '0123456789';

export const FRESH_SETS = { letter: LETTERS, lower: LETTERS.toLowerCase(), digit: DIGITS, either: LETTERS + DIGITS } as const;

/**
 * A fresh value for a pattern (values/pattern.ts), without the letters I and O, which are read as digits. `random` gives
 * numbers in [0, 1): pass a seeded source to get the same value again.
 */
export function createFreshValue(pattern: string, random: () => number): string {
  return parsePattern(pattern)
    .map((part) => (part.kind === 'itself' ? part.character : pickFrom(FRESH_SETS[part.kind], random)))
    .join('');
}

function pickFrom(set: string, random: () => number): string {
  return set[Math.floor(random() * set.length)] ?? '';
}

/**
 * A small seeded source of numbers in [0, 1) (mulberry32, Tommy Ettinger 2017, public domain; from memory).
 * Good enough for demo data and tests, not for secrets.
 */
export function createRandom(seed: number): () => number {
  const held = Int32Array.of(seed);
  return () => {
    const state = (held[0]! + 0x6d2b79f5) | 0;
    held[0] = state;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t = (t + Math.imul(t ^ (t >>> 7), t | 61)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** A 32-bit seed from text (FNV-1a), so that an attempt's id gives the same fresh values each time it is shown. */
export function toSeed(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i += 1) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash >>> 0;
}
