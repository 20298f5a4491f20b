import { describe, expect, it } from 'vitest';
import { isSameCut, readCut, SLICE_VIEWS, toSliceAddress } from './slice.ts';
import { getSixths, getTileView, isNamingPeople, TILE_KINDS, TILE_WIDTHS } from './tile.ts';

const cutOf = (address: string) => readCut(new URL(address, 'http://kept').searchParams);

describe('a cut', () => {
  it('is what the address says, without where in it somebody looks', () => {
    expect(cutOf('/progress?view=course&slice=1&page=3&fromRow=40&step=a&holdsOf=b&scope=NS&team=')).toEqual({ scope: 'NS' });
  });

  it('comes back from the address that it makes, of every view', () => {
    const cut = { cycle: 'ACC-2,INT-1', scope: 'NS', sort: 'errors', team: 'Field & crews' };
    for (const view of SLICE_VIEWS) {
      const address = toSliceAddress(view, cut, { slice: 'x' });
      const inPath = view === 'turns' ? { cycle: decodeURIComponent(address.split('/')[2] ?? '') } : {};
      expect([view, { ...cutOf(address), ...inPath }]).toEqual([view, cut]);
      expect(new URL(address, 'http://kept').searchParams.get('slice')).toBe('x');
    }
    expect(toSliceAddress('where', {})).toBe('/progress');
  });

  it('is the same in any order, and on any page', () => {
    expect(isSameCut({ a: '1', b: '2' }, { b: '2', a: '1', page: '4' })).toBe(true);
    expect(isSameCut({ a: '1' }, { a: '1', b: '2' })).toBe(false);
  });
});

describe('a tile', () => {
  it('is of a view, and some of the six columns wide', () => {
    for (const kind of TILE_KINDS) expect(SLICE_VIEWS).toContain(getTileView(kind));
    expect(TILE_WIDTHS.map(getSixths)).toEqual([2, 3, 4, 6]);
  });

  it('names people as a list of turns, by person, or of one', () => {
    expect(isNamingPeople('turns', {})).toBe(true);
    expect(isNamingPeople('table', { columns: 'person' })).toBe(true);
    expect(isNamingPeople('figures', { columns: 'person' })).toBe(false);
    expect(isNamingPeople('figures', { person: 'Una Petrel' })).toBe(true);
    expect(isNamingPeople('table', { rows: 'team' })).toBe(false);
    expect([isNamingPeople('teams', {}), isNamingPeople('teams', { each: 'tester' })]).toEqual([false, true]);
  });
});
