import { describe, expect, it } from 'vitest';
import type { FacetedTest } from './facets.ts';
import { facetTests } from './facets.ts';

const make = (more: Partial<FacetedTest>): FacetedTest => ({
  ...{
    team: 'Billing',
    application: null,
    state: 'agreed',
    priority: 'high',
    runBy: 'hand',
    standing: null,
    tags: [],
    usedIn: 1,
    serves: 0,
  },
  ...more,
});
const TESTS = [
  make({ tags: ['smoke', 'tax'] }),
  make({ priority: 'low', tags: ['tax'] }),
  make({ team: null, standing: { standing: 'failing' }, usedIn: 0 }),
];

describe('the facets of the library', () => {
  it('find the tests that have one of the values of every facet that is asked for', () => {
    expect(facetTests(TESTS, { tag: ['smoke', 'none of these'], priority: ['high'] }).found).toEqual([TESTS[0]]);
    expect(facetTests(TESTS, { used: ['none'], stands: ['failing'], team: ['none'] }).found).toEqual([TESTS[2]]);
    expect(facetTests(TESTS, {}).found).toHaveLength(3);
    // An address may ask for what there is not, or is no longer.
    const { found, counts } = facetTests(TESTS, { stands: ['gone with the wind'] });
    expect([found, counts.stands.at(0)]).toEqual([[], { key: 'gone with the wind', name: 'gone with the wind', count: 0 }]);
  });

  it('count each facet by what the others ask for, so that its other values can be chosen too', () => {
    const { counts } = facetTests(TESTS, { tag: ['tax'], priority: ['high'] });
    expect(counts.priority.map(({ key, count }) => [key, count])).toEqual([
      ['high', 1],
      ['low', 1],
    ]);
    expect(counts.tag.map(({ key, count }) => [key, count])).toEqual([
      ['smoke', 1],
      ['tax', 1],
    ]);
    expect(counts.team).toEqual([{ key: 'Billing', name: 'Billing', count: 1 }]);
  });

  it('name each value as people say it, in the order of its kind', () => {
    const { counts } = facetTests([...TESTS, make({ runBy: 'runner', application: 'Ledger', state: 'draft' })], {});
    expect(counts.runBy.map(({ name, count }) => [name, count])).toEqual([
      ['people', 3],
      ['runners', 1],
    ]);
    expect(counts.application.map(({ name }) => name).sort()).toEqual(['Ledger', 'no application']);
    expect(counts.stands.map(({ key, name }) => [key, name])).toContainEqual(['none', 'in no cycle yet']);
    expect(counts.state.map(({ key }) => key)).toEqual(['draft', 'agreed']);
  });

  it('tell a value that is asked for even where nothing has it', () => {
    expect(facetTests(TESTS, { tag: ['gone'] }).counts.tag.find(({ key }) => key === 'gone')).toEqual({
      key: 'gone',
      name: 'gone',
      count: 0,
    });
  });
});
