import { describe, expect, it } from 'vitest';
import type { FilteredRequirement } from './filter-requirements.ts';
import { countGaps, filterRequirements, hasGap, REQUIREMENT_GAPS } from './filter-requirements.ts';
import { proposeNextCode } from './requirement.ts';

const item = (code: string, more: Partial<FilteredRequirement> = {}): FilteredRequirement => ({
  ...{ code, title: `Charge of ${code}`, kind: 'business', state: 'not yet', nodes: [{ code: 'P1' }], tests: [] },
  ...more,
});
const all = [
  item('R-1', { tests: ['T-1'], state: 'verified' }),
  item('R-2', { state: 'refuted', kind: 'functional' }),
  item('R-3', { state: 'partly', nodes: [], title: 'Deposit' }),
];
const codes = (narrowing: Partial<Parameters<typeof filterRequirements>[1]>) =>
  filterRequirements(all, { branch: null, ...narrowing }).map(({ code }) => code);

describe('the list of requirements', () => {
  it('shows all, and counts by each gap what has it', () => {
    expect(codes({})).toEqual(['R-1', 'R-2', 'R-3']);
    expect(countGaps(all)).toEqual({ 'no-test': 2, refuted: 1, 'not-yet': 0, partly: 1, verified: 1, nowhere: 1 });
    for (const gap of REQUIREMENT_GAPS) expect(all.filter((each) => hasGap(each, gap))).toHaveLength(countGaps(all)[gap]);
    expect(all.filter((each) => hasGap(each, 'no-test')).map(({ code }) => code)).toEqual(['R-2', 'R-3']);
  });

  it('narrows by branch, kind and every word, in code or title', () => {
    expect(codes({ branch: new Set(['P1']) })).toEqual(['R-1', 'R-2']);
    expect(codes({ kind: 'functional' })).toEqual(['R-2']);
    expect(codes({ words: ' CHARGE  r-1 ' })).toEqual(['R-1']);
    expect(codes({ words: 'charge deposit' })).toEqual([]);
  });
});

describe('the code of a new requirement', () => {
  it.each([
    [[], 'RQ-001'],
    [['RQ-009', 'RQ-060', 'RQ-002'], 'RQ-061'],
    [['R-99'], 'R-100'],
    [['Lamps'], 'Lamps-1'],
  ])('after %j is %s', (taken, next) => expect(proposeNextCode(taken)).toBe(next));
});
