import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { getWilsonBounds } from './wilson.ts';

describe('the bounds of a share', () => {
  // Source: R. G. Newcombe, Two-sided confidence intervals for the single proportion, Statistics in Medicine 17 (1998), table I, method 3; from memory.
  it.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])('%i of %i lie where the table has them', (part, of, low, high) => {
    const bounds = getWilsonBounds(part, of);
    expect([bounds.low.toFixed(4), bounds.high.toFixed(4)]).toEqual([low.toFixed(4), high.toFixed(4)]);
  });

  it('solve the equation that they come from: the share is 1.96 standard errors of the bound away', () => {
    const counts = fc
      .integer({ min: 1, max: 5_000 })
      .chain((of) => fc.tuple(fc.integer({ min: 1, max: Math.max(1, of - 1) }), fc.constant(of)));
    fc.assert(
      fc.property(counts, ([part, of]) => {
        if (part >= of) return;
        const { low, high } = getWilsonBounds(part, of);
        for (const bound of [low, high])
          expect((part / of - bound) ** 2).toBeCloseTo(1.959963984540054 ** 2 * ((bound * (1 - bound)) / of), 12);
      }),
    );
  });

  it('put 2 of 2 below 30 of 40, and say nothing of what was never tried', () => {
    expect(getWilsonBounds(2, 2).low).toBeLessThan(getWilsonBounds(30, 40).low);
    expect(getWilsonBounds(0, 0)).toEqual({ low: 0, high: 1 });
    expect(getWilsonBounds(7, 7).high).toBe(1);
  });
});
