import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addPoolMinutes, countPoolMinutes, isPoolOpen } from './pool-hours.ts';

const NIGHTS = { days: [1, 2, 3, 4, 5], opensAt: 20 * 60, closesAt: 24 * 60 };
const ALWAYS = { days: [1, 2, 3, 4, 5, 6, 7], opensAt: 0, closesAt: 1_440 };
const LONDON = 'Europe/London';
const at = (text: string) => Date.parse(text);
const add = (from: string, minutes: number, hours = NIGHTS) => {
  const moment = addPoolMinutes(hours, at(from), minutes, LONDON);
  return moment === null ? null : new Date(moment).toISOString();
};

describe('the hours of a pool', () => {
  it('are open from the first minute to before the last, on their days, by the programme’s clock', () => {
    // 2026-11-27 is a Friday.
    const open = ['2026-11-27T19:59:00Z', '2026-11-27T20:00:00Z', '2026-11-27T23:59:00Z', '2026-11-28T20:30:00Z'];
    expect(open.map((text) => isPoolOpen(NIGHTS, at(text), LONDON))).toEqual([false, true, true, false]);
    // In summer the clock of London is an hour ahead of UTC.
    expect(isPoolOpen(NIGHTS, at('2026-07-01T19:00:00Z'), LONDON)).toBe(true);
  });

  it('go on when it opens again, over a weekend', () => {
    expect(add('2026-11-27T12:00:00Z', 60)).toBe('2026-11-27T21:00:00.000Z');
    expect(add('2026-11-27T23:00:00Z', 90)).toBe('2026-11-30T20:30:00.000Z');
    expect(add('2026-11-27T12:00:00Z', 90, ALWAYS)).toBe('2026-11-27T13:30:00.000Z');
    expect(addPoolMinutes(NIGHTS, at('2026-11-27T12:00:00Z'), 1e9, LONDON)).toBeNull();
  });

  it('hold over a change of the clocks: what the clock shows counts', () => {
    // On 2027-03-28 London goes from 01:00 to 02:00.
    expect(add('2027-03-26T12:00:00Z', 240)).toBe('2027-03-27T00:00:00.000Z');
    expect(add('2027-03-26T12:00:00Z', 300)).toBe('2027-03-29T20:00:00.000Z');
  });

  it('counted from a moment to where so many minutes end are so many', () => {
    const hours = fc.record({
      days: fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1 }),
      opensAt: fc.integer({ min: 0, max: 700 }),
      closesAt: fc.integer({ min: 701, max: 1_440 }),
    });
    fc.assert(
      fc.property(hours, fc.integer({ min: 1, max: 3_000 }), fc.integer({ min: 0, max: 20_000 }), (own, minutes, ahead) => {
        const from = at('2026-11-02T00:00:00Z') + ahead * 60_000;
        const to = addPoolMinutes(own, from, minutes, LONDON);
        expect(to === null ? minutes : countPoolMinutes(own, from, to, LONDON)).toBe(minutes);
      }),
      { numRuns: 300 },
    );
  });
});
