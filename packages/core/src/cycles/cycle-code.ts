import type { CyclePurpose } from './cycle.ts';

/**
 * How a programme numbers its cycles. `{purpose}` is the purpose's first three letters (ACC, INT, REG, SMO), `{year}` the year of its
 * begin, a run of 9 the next number with at least so many digits; anything else stands for itself.
 */
export const DEFAULT_CYCLE_SCHEME = '{purpose}-9';

const PART = /\{purpose\}|\{year\}|9+/g;

/** Says what is wrong with a scheme, or null. */
export function checkCycleScheme(scheme: string): string | null {
  if (!/9/.test(scheme)) return 'A scheme needs a number: write 9 where it is to stand.';
  const rest = scheme.replace(PART, '');
  if (/[^A-Za-z0-9._-]/.test(rest)) return 'A code has letters, digits, points, hyphens and underscores only, and {purpose} and {year}.';
  return /^[._-]/.test(scheme) ? 'A code begins with a letter or a digit.' : null;
}

const MOST_CYCLES = 999;

/** The code behind the highest number that is taken: who has ACC-2 expects ACC-3, also where ACC-1 is free. Cost: a thousand looks. */
export function proposeCycleCode(scheme: string, purpose: CyclePurpose, startsOn: string, isTaken: (code: string) => boolean): string {
  const toCode = (number: number) =>
    scheme.replace(PART, (part) => {
      if (part === '{purpose}') return purpose.slice(0, 3).toUpperCase();
      if (part === '{year}') return startsOn.slice(0, 4);
      return String(number).padStart(part.length, '0');
    });
  let highest = 0;
  for (let number = 1; number <= MOST_CYCLES; number += 1) if (isTaken(toCode(number))) highest = number;
  return toCode(highest + 1);
}
