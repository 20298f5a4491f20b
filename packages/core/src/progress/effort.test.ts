import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { getSpentMs, SHORTEST_PAUSE_MINUTES } from './effort.ts';

const MINUTE = 60_000;
const at = (...minutes: number[]) => minutes.map((minute) => minute * MINUTE);

describe('what an attempt took', () => {
  it('is the time from its begin to its end, where nobody was called away', () => {
    expect(getSpentMs(at(0, 4, 9, 12), 10)).toBe(12 * MINUTE);
  });

  it('takes out a pause longer than the turn was planned; a short turn is given a quarter of an hour', () => {
    expect(getSpentMs(at(0, 5, 65, 70), 20)).toBe(10 * MINUTE);
    expect(getSpentMs(at(0, 5, 19, 24), 2)).toBe(24 * MINUTE);
    expect(getSpentMs(at(0, 25), 30)).toBe(25 * MINUTE);
  });

  it('never is more than the whole, nor another by the order of its words', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 500 }), { minLength: 1 }), fc.integer({ min: 1, max: 90 }), (minutes, planned) => {
        const spent = getSpentMs(at(...minutes), planned);
        expect(spent).toBeLessThanOrEqual((Math.max(...minutes) - Math.min(...minutes)) * MINUTE);
        expect(getSpentMs(at(...minutes).reverse(), planned)).toBe(spent);
        if (Math.max(...minutes) - Math.min(...minutes) <= SHORTEST_PAUSE_MINUTES)
          expect(spent).toBe((Math.max(...minutes) - Math.min(...minutes)) * MINUTE);
      }),
    );
  });
});
