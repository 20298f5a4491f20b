import { expect, it } from 'vitest';
import { findWayIn } from './find-way-in.ts';

it('finds the newest step that goes somewhere, up to the one that is gone on with', () => {
  const steps = (['go', 'fill', 'press', 'go', 'see'] as const).map((verb) => ({ do: verb }));
  expect([0, 1, 2, 3, 4, 9].map((to) => findWayIn(steps, to))).toEqual([0, 0, 0, 3, 3, 3]);
  expect(findWayIn([{ do: 'fill' }, { do: 'press' }], 1)).toBe(0);
});
