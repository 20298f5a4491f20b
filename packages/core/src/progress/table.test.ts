import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { TurnStatus } from '../outcomes.ts';
import { RUN_OUTCOMES, TURN_STATUSES } from '../outcomes.ts';
import { CYCLE_GROUPS, pickCycles } from '../cycles/cycle-groups.ts';
import { CYCLE_STATES } from '../cycles/cycle.ts';
import { COUNTED, getStandingWord, getWorst, listStatuses, PARTS, pickParts, RUN_STATUSES, sumPart, WORST_FIRST } from './counted.ts';
import { FACET_FILTERS, FACET_SAYINGS, FACETS, getNextFacet, NONE } from './facet.ts';
import { isSortFor, LINE_SORTS, sortLines } from './sort-lines.ts';
import type { Counts } from './tally.ts';
import { NO_COUNTS, sumCounts } from './tally.ts';

const anyCounts = fc
  .array(fc.nat({ max: 9 }), { minLength: TURN_STATUSES.length, maxLength: TURN_STATUSES.length })
  .map((amounts) => Object.fromEntries(TURN_STATUSES.map((status, index) => [status, amounts[index] ?? 0])) as Counts);

describe('what a table of progress counts', () => {
  it('says of a test the worst of its turns: passed only where nothing else is', () => {
    expect([...WORST_FIRST].sort()).toEqual([...TURN_STATUSES].sort());
    const standing: [TurnStatus[], TurnStatus | undefined][] = [
      [[], undefined],
      [['passed', 'failed', 'blocked'], 'failed'],
      [['passed', 'ready'], 'ready'],
      [['skipped', 'passed'], 'passed'],
      [['skipped'], 'skipped'],
    ];
    for (const [statuses, worst] of standing) expect([statuses, getWorst(statuses)]).toEqual([statuses, worst]);
  });

  it('has a place and a word for whatever a run comes to', () => {
    for (const outcome of RUN_OUTCOMES) expect(TURN_STATUSES).toContain(RUN_STATUSES[outcome]);
    expect(COUNTED.map((counted) => getStandingWord(counted, 'passed'))).toEqual(['passed', 'through', 'passed', 'passed']);
  });

  it('is in one part each, but for what is left out of the round; all parts are all there is (seed 4217)', () => {
    const parted = PARTS.flatMap((part) => listStatuses([part]));
    expect([...parted, 'skipped'].sort()).toEqual([...TURN_STATUSES].sort());
    fc.assert(
      fc.property(anyCounts, fc.subarray([...PARTS], { minLength: 1 }), (counts, parts) => {
        const sum = parts.reduce((total, part) => total + sumPart(counts, part), 0);
        expect(sumCounts(pickParts(counts, parts))).toBe(sum + (parts.length === PARTS.length ? counts.skipped : 0));
      }),
      { seed: 4217 },
    );
  });
});

describe('the rows of a table', () => {
  it('are sorted with those that have no share last, and keep their order where they are alike (seed 4217)', () => {
    fc.assert(
      fc.property(fc.array(anyCounts, { maxLength: 12 }), fc.constantFrom(...LINE_SORTS), (all, sort) => {
        const lines = all.map((counts, place) => ({ place, counts }));
        const sorted = sortLines(lines, sort);
        expect([...sorted].sort((a, b) => a.place - b.place)).toEqual(lines);
        expect(sortLines(sorted, sort)).toEqual(sorted);
      }),
      { seed: 4217 },
    );
    const line = (name: string, more: Partial<Counts>) => ({ name, counts: { ...NO_COUNTS, ...more } });
    const lines = [
      line('nothing', {}),
      line('half', { passed: 1, ready: 1 }),
      line('none', { ready: 2 }),
      line('also half', { failed: 2, ready: 2 }),
    ];
    expect(sortLines(lines, 'run share').map(({ name }) => name)).toEqual(['none', 'half', 'also half', 'nothing']);
  });

  it('are not sorted by a part that is not shown', () => {
    expect(LINE_SORTS.filter((sort) => isSortFor(sort, ['rest']))).toEqual(['rest', 'run share', 'pass share']);
  });
});

describe('a facet', () => {
  it('has a filter of its own, says it, and is taken apart by another, never by what stands beside it', () => {
    expect(new Set(FACET_FILTERS).size).toBe(FACETS.length);
    for (const facet of FACETS)
      for (const beside of FACETS.filter((each) => each !== facet)) {
        const next = getNextFacet(facet, beside);
        expect([facet, beside, next]).not.toEqual([facet, beside, beside]);
        expect(next === null || FACETS.includes(next)).toBe(true);
      }
    expect([FACET_SAYINGS.team('Billing'), FACET_SAYINGS.team(NONE)]).toEqual(['by Billing', 'by no team']);
  });
});

describe('a group of cycles', () => {
  it('is those that run, or the last three that began; never one that is only planned', () => {
    const cycles = CYCLE_STATES.flatMap((state, index) => [
      { state, startsOn: `2026-0${index + 1}-01` },
      { state, startsOn: `2025-0${index + 1}-01` },
    ]);
    expect(pickCycles('@open', cycles).map(({ state }) => state)).toEqual(['open', 'open', 'closing', 'closing']);
    expect(pickCycles('@last', cycles).map(({ startsOn }) => startsOn)).toEqual(['2026-04-01', '2026-03-01', '2026-02-01']);
    for (const group of CYCLE_GROUPS) expect(pickCycles(group, [])).toEqual([]);
  });
});
