import type { RequirementItem, Traceability } from '@kindred-baton/contracts/requirements/requirement';
import { describe, expect, it } from 'vitest';
import { filterRequirements, listMatrixTests, REQUIREMENT_FILTERS } from './filter-requirements.ts';

const item = (code: string, more: Partial<RequirementItem> = {}): RequirementItem =>
  ({
    ...{ id: code as never, code, title: `Charge of ${code}`, description: '', kind: 'business', priority: 'low', state: 'not yet' },
    ...{ nodes: [{ code: 'P1', name: 'One' }], tests: [] },
    ...(more as object),
  }) as RequirementItem;
const all = [
  item('R-1', { tests: [{ code: 'T-1', name: 'Test', status: 'passed' }], state: 'verified' } as never),
  item('R-2', { state: 'refuted', kind: 'functional' }),
  item('R-3', { state: 'partly', nodes: [], title: 'Deposit' }),
];
const codes = (query: object) =>
  filterRequirements(all, { show: null, kind: null, words: '', isInScope: (code) => code === 'P1', hasScope: false, ...query }).map(
    ({ code }) => code,
  );

describe('the list of requirements', () => {
  it('shows all, and by each gap what has it', () => {
    expect(codes({})).toEqual(['R-1', 'R-2', 'R-3']);
    expect(REQUIREMENT_FILTERS.map(({ key }) => [key, codes({ show: key })])).toEqual([
      ['no-test', ['R-2', 'R-3']],
      ['refuted', ['R-2']],
      ['not-yet', []],
      ['partly', ['R-3']],
      ['verified', ['R-1']],
      ['nowhere', ['R-3']],
    ]);
    expect(codes({ show: 'unknown' })).toEqual(['R-1', 'R-2', 'R-3']);
  });

  it('narrows by branch, kind and every word, in code or title', () => {
    expect(codes({ hasScope: true })).toEqual(['R-1', 'R-2']);
    expect(codes({ kind: 'functional' })).toEqual(['R-2']);
    expect(codes({ words: ' CHARGE  r-1 ' })).toEqual(['R-1']);
    expect(codes({ words: 'charge deposit' })).toEqual([]);
  });

  it('has in its matrix the tests of the branch and those that serve what is shown', () => {
    const tests = [
      { code: 'T-1', name: '', node: 'P9' },
      { code: 'T-2', name: '', node: 'P1' },
      { code: 'T-3', name: '', node: 'P9' },
    ] as unknown as Traceability['tests'];
    expect(listMatrixTests({ tests } as Traceability, all, (code) => code === 'P1').map(({ code }) => code)).toEqual(['T-1', 'T-2']);
  });
});
