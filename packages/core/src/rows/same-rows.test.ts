import { describe, expect, it } from 'vitest';
import { coverRows } from './cover-rows.ts';
import type { RowModel } from './row-model.ts';

/** A short print of numbers that differ where anything does (FNV-1a, 32 bits). */
const print = (numbers: Iterable<number>): string => {
  let hash = 0x811c9dc5;
  for (const each of numbers) hash = Math.imul(hash ^ (each + 2), 0x01000193) >>> 0;
  return hash.toString(16).padStart(8, '0');
};
const model = (sizes: readonly number[], more: Partial<RowModel> = {}): RowModel => ({
  ...{ strength: 2, sizes, forbidden: [] },
  isInvalid: sizes.map((size) => Array.from({ length: size }, () => false)),
  ...more,
});
const make = (given: RowModel, seed: number, budget?: number) => {
  const work = coverRows(given, budget === undefined ? { seed } : { seed, budget });
  for (let steps = 1; ; steps += 1) {
    const step = work.next();
    if (step.done)
      return `${step.value.rows.length} of ${step.value.lowerBound}, ${steps} steps, ${print(step.value.rows.flatMap((row) => [...row]))}`;
  }
};

/**
 * The rows of a seed are the same each time, on any machine: what somebody was shown is what she gets. The figures were obtained by running, and
 * change only with the search itself; then the number of rows must not grow.
 */
describe('rows of a seed', () => {
  const invalid = [
    [false, false, true],
    [false, false],
    [false, false, false, true],
    [false, false],
  ];
  it.each([
    ['3^4', model([3, 3, 3, 3]), 1, undefined, '9 of 9, 11 steps, 40ac4869'],
    ['3^13', model(Array<number>(13).fill(3)), 4217, undefined, '18 of 9, 59 steps, 161ecc1c'],
    ['2^20', model(Array<number>(20).fill(2)), 7, undefined, '10 of 8, 68 steps, e9741dc5'],
    ['4^5 triples', model([4, 4, 4, 4, 4], { strength: 3 }), 3, undefined, '91 of 64, 101 steps, 92387561'],
    ['mixed', model([2, 7, 3, 5, 4, 2]), 11, 200_000, '35 of 35, 36 steps, 62c62e92'],
    ['invalid classes', model([3, 2, 4, 2], { isInvalid: invalid }), 5, undefined, '11 of 11, 12 steps, d868628f'],
    [
      'forbidden',
      model([3, 3, 4, 2], {
        forbidden: [
          [
            [0, 0],
            [1, 1],
          ],
          [
            [2, 3],
            [3, 0],
            [0, 2],
          ],
        ],
      }),
      9,
      undefined,
      '12 of 12, 16 steps, d5a4a795',
    ],
    ['little time', model(Array<number>(30).fill(4)), 2, 50_000, '43 of 16, 44 steps, 13f93d2d'],
  ] as const)('%s: as many and the same', (_, given, seed, budget, expected) => expect(make(given, seed, budget)).toBe(expected));
});
