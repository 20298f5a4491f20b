import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cutPage } from './pages.ts';

describe('pages of a list', () => {
  it('have every entry once, in order, and none behind the last', () => {
    fc.assert(
      fc.property(fc.array(fc.integer(), { maxLength: 200 }), fc.integer({ min: 1, max: 40 }), (all, of) => {
        const pages = Math.max(1, Math.ceil(all.length / of));
        const cut = Array.from({ length: pages }, (_, i) => cutPage(all, { page: i + 1, of }));
        expect(cut.flatMap(({ shown }) => shown)).toEqual(all);
        expect(cut.map(({ at }) => at.from)).toEqual(cut.map((_, i) => i * of));
        expect(cutPage(all, { page: pages + 7, of })).toEqual(cut.at(-1));
      }),
    );
  });
});
