import { describe, expect, it } from 'vitest';
import { findClones } from '../find-clones.ts';
import { readPlainSentence } from '../read-plain-sentence.ts';
import type { Step } from '../step.ts';
import type { ExaminedTest } from './finding.ts';
import { findSharedOpenings } from './find-shared-openings.ts';
import { examineTest, TEST_FINDING_RULES, toWaiverKey } from './rules.ts';

const read = (...lines: string[]): Step[] => lines.flatMap((line) => readPlainSentence(line).steps);
const make = (lines: string[], more: Partial<ExaminedTest> = {}): ExaminedTest => ({
  ...{ steps: read(...lines), rows: [], reached: null, neededElsewhere: new Set<string>(), sharedOpening: null },
  ...more,
});
const find = (rule: string, test: ExaminedTest) => examineTest(test).filter((finding) => finding.rule === rule);

const LONG = Array.from({ length: 26 }, (_, index) => `Enter "x" in Field ${index}`);

const CASES: readonly { rule: string; odd: ExaminedTest; fine: ExaminedTest; steps: number[] }[] = [
  { rule: 'checks nothing', odd: make(['Open Quotes', 'Press Save']), fine: make(['Press Save → the quote is saved']), steps: [] },
  {
    rule: 'nothing seen after a save',
    odd: make(['Enter "5" in Amount', 'Press Save', 'Open Quotes']),
    fine: make(['Press Save', 'Check that the message "Saved" appears']),
    steps: [1],
  },
  {
    rule: 'true before',
    odd: make(['See that Status is Open', 'Press Refresh', 'See that Status is Open']),
    fine: make(['See that Status is Open', 'Press Release', 'See that Status is Released']),
    steps: [2],
  },
  {
    rule: 'true before',
    odd: make(['Enter "10" in Amount', 'See that Amount is 10']),
    fine: make(['Enter "10" in Amount', 'Press Save', 'See that Amount is 10']),
    steps: [1],
  },
  {
    rule: 'fixed where unique',
    odd: make(['Enter "KB-1" in Registration', 'Press Save']),
    fine: make(['Enter {new AA-9999} in Registration', 'Press Save']),
    steps: [0],
  },
  {
    rule: 'not read back',
    odd: make(['Press Save', 'Note the Quote number']),
    fine: make(['Note the Quote number as Quote no.', 'See that Title is {Quote no.}']),
    steps: [1],
  },
  {
    rule: 'never used',
    odd: make(['Note the Quote number']),
    fine: make(['Note the Quote number'], { neededElsewhere: new Set(['quote number']) }),
    steps: [0],
  },
  {
    rule: 'never reached',
    odd: make(['Open A', 'Open B', 'Open C'], { reached: 1 }),
    fine: make(['Open A', 'Open B', 'Open C'], { reached: 3 }),
    steps: [1, 2],
  },
  {
    rule: 'repeats soon',
    odd: make(['Enter {new 99} in Code']),
    fine: make(['Enter {new AA-999999} in Code']),
    steps: [0],
  },
  { rule: 'many steps', odd: make(LONG), fine: make(LONG.slice(0, 25)), steps: [] },
  {
    rule: 'shared opening',
    odd: make(LONG.slice(0, 6), { sharedOpening: { length: 4, tests: ['B', 'C', 'D'], count: 7 } }),
    fine: make(LONG.slice(0, 6)),
    steps: [0, 1, 2, 3],
  },
  { rule: 'by hand', odd: make(['Count the boxes on the pallet']), fine: make(['Press Count']), steps: [0] },
];

describe('worth a look', () => {
  it.each(CASES.map((each) => [each.rule, each] as const))(
    '%s: found where it is, not where it is not, with a way out',
    (rule, { odd, fine, steps }) => {
      const [finding] = find(rule, odd);
      expect(finding?.steps).toEqual(steps);
      expect(finding?.message.length).toBeGreaterThan(20);
      expect(finding?.wayOut).not.toBe('');
      expect(find(rule, fine)).toEqual([]);
    },
  );

  it('takes a kept value for read back where it is seen at any place, or used later; not where it was only filled in before', () => {
    const keep = 'Keep "Number", keep as "Quote no."';
    const isOdd = (...lines: string[]) => find('not read back', make(lines)).length > 0;
    expect(isOdd(keep, 'Enter {Quote no.} in Search')).toBe(false);
    expect(isOdd('Enter {Quote no.} in Search', keep)).toBe(true);
    expect(isOdd('Check that Number is "QT-1"', keep)).toBe(false);
    expect(isOdd('Press Save. You should see: {Quote no.}', keep)).toBe(false);
  });

  it('lists what weighs the same in the order of the steps', () => {
    const found = examineTest(make(['Press Save', 'Do by hand: think', 'Press Save', 'Do by hand: think again']));
    for (const weight of new Set(found.map((finding) => finding.weight))) {
      const places = found.filter((finding) => finding.weight === weight).map(({ steps }) => steps[0] ?? -1);
      expect(places).toEqual([...places].sort((a, b) => a - b));
    }
    expect(found.length).toBeGreaterThan(1);
  });

  it('tries every rule', () => {
    expect(new Set(CASES.map(({ rule }) => rule))).toEqual(new Set(TEST_FINDING_RULES.map(({ rule }) => rule)));
  });

  it('names a finding by what it is about, so that a waiver holds when steps move', () => {
    const lines = ['Press Save', 'Open Quotes'];
    const [before] = find('nothing seen after a save', make(lines));
    const [after] = find('nothing seen after a save', make(['Open Start', ...lines]));
    expect(after?.steps).not.toEqual(before?.steps);
    expect(toWaiverKey(after!)).toBe(toWaiverKey(before!));
  });

  it('tells which tests share an opening', () => {
    const opening = ['Open Quotes', 'Press New', 'Enter "x" in Customer', 'Enter "y" in Address'];
    const clones = findClones([
      { test: 'A', steps: read(...opening, 'Press Save') },
      { test: 'B', steps: read(...opening, 'Press Cancel') },
      { test: 'C', steps: read('Open Start', ...opening) },
    ]);
    const openings = findSharedOpenings(clones);
    expect(openings.get('A')).toEqual({ length: 4, tests: ['B'], count: 1 });
    expect(openings.has('C')).toBe(false);
    expect(
      examineTest(make([...opening, 'Press Save'], { sharedOpening: openings.get('A') ?? null })).some(({ message }) =>
        message.includes('those of B too'),
      ),
    ).toBe(true);
  });
});
