import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { getSpentMs, proposeMinutes, SHORTEST_PAUSE_MINUTES } from './effort.ts';

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

describe('what a turn should be planned for', () => {
  it('is the middle one of the last ten, in whole minutes, from twenty on in fives', () => {
    expect(proposeMinutes(15, [8, 9, 30])).toBe(9);
    expect(proposeMinutes(15, [40, 44, 52, 41])).toBe(45);
    // Older than the last ten: not looked at.
    expect(proposeMinutes(15, [...Array.from({ length: 10 }, () => 6), ...Array.from({ length: 50 }, () => 90)])).toBe(6);
    expect(proposeMinutes(10, [0.1, 0.2, 0.2])).toBe(1);
  });

  it('is not said of fewer than three, nor where it is planned as well as that', () => {
    expect(proposeMinutes(15, [60, 60])).toBeNull();
    expect(proposeMinutes(15, [])).toBeNull();
    expect(proposeMinutes(15, [16, 16, 16])).toBeNull();
    expect(proposeMinutes(60, [63, 64, 65])).toBeNull();
  });

  it('once taken, nothing better is proposed for the same turns', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.array(fc.double({ min: 0, max: 600, noNaN: true })), (planned, spent) => {
        const proposed = proposeMinutes(planned, spent);
        if (proposed !== null) expect(proposeMinutes(proposed, spent)).toBeNull();
      }),
    );
  });
});
