import { describe, expect, it } from 'vitest';
import { createBareTurn } from './create-bare-turn.ts';

describe('a turn without a written test', () => {
  it('is done in people’s own words, and keeps each value that others need; what is optional may be left out', () => {
    const gives = [
      { name: 'Quote no.', type: 'code' as const },
      { name: 'Remark', type: 'text' as const, required: false },
    ];
    const { steps, gives: given } = createBareTurn('Price the quote', gives);
    expect(given).toEqual(gives);
    expect(steps).toEqual([
      { do: 'hand', target: 'Do it, and say how it went: Price the quote' },
      { do: 'keep', target: 'Quote no.', keepAs: 'Quote no.' },
      { do: 'keep', target: 'Remark', keepAs: 'Remark', optional: true },
    ]);
  });
});
