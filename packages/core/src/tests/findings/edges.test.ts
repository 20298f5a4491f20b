import { describe, expect, it } from 'vitest';
import type { Step } from '../step.ts';
import type { ExaminedTest } from './finding.ts';
import { isLooking, isSaving } from './finding.ts';
import { examineTest } from './rules.ts';

const make = (steps: Step[], more: Partial<ExaminedTest> = {}): ExaminedTest => ({
  ...{ steps, rows: [], reached: null, neededElsewhere: new Set<string>(), sharedOpening: null },
  ...more,
});
const find = (rule: string, test: ExaminedTest) => examineTest(test).filter((finding) => finding.rule === rule);
const press = (target: string, more: Partial<Step> = {}): Step => ({ do: 'press', target, ...more });

describe('a kept value', () => {
  const keep = press('Save', { keepAs: 'Order no.' });
  it('is used where any later step names it among others, in any of its parts, in any spelling', () => {
    expect(find('never used', make([keep, press('Go', { value: '{Other} and {order  NO.}' })]))).toEqual([]);
    expect(find('never used', make([keep, press('{Order no.}')]))).toEqual([]);
    expect(find('never used', make([keep, press('Go', { expect: 'for {Order no.}' })]))).toEqual([]);
  });
  it('is not used by its own step, by one before it, or by none; what another test needs is', () => {
    expect(find('never used', make([press('{Order no.}'), { ...keep, value: '{Order no.}' }]))).toHaveLength(1);
    expect(find('never used', make([keep], { neededElsewhere: new Set(['order no.']) }))).toEqual([]);
  });
});

describe('a step that no attempt has reached', () => {
  it('is named with all behind it, by the numbers that people see', () => {
    const steps = ['One', 'Two', 'Three'].map((target) => press(target));
    expect(find('never reached', make(steps, { reached: 1 }))).toMatchObject([
      { steps: [1, 2], message: 'No attempt has ever got to step 2 or beyond: nobody knows whether it can be done.' },
    ]);
    expect(find('never reached', make(steps, { reached: 3 }))).toEqual([]);
    expect(find('never reached', make(steps, { reached: 0 }))).toMatchObject([{ steps: [0, 1, 2] }]);
  });
});

describe('a step that saves, and one that looks', () => {
  it('saves only by a press, on a word that says so', () => {
    expect([press('Save'), press('Submit order'), press('Next')].map(isSaving)).toEqual([true, true, false]);
    expect(
      (
        [
          { do: 'fill', target: 'Save' },
          { do: 'see', target: 'Save' },
        ] as Step[]
      ).map(isSaving),
    ).toEqual([false, false]);
    expect(isSaving(undefined)).toBe(false);
  });

  it('looks by what it does, or by what is expected of it', () => {
    const looking: Step[] = [
      { do: 'see', target: 'Total' },
      { do: 'keep', target: 'No.' },
      { do: 'wait', target: 'List' },
      press('Go', { expect: 'the list' }),
    ];
    expect(looking.map(isLooking)).toEqual([true, true, true, true]);
    expect([press('Go'), undefined].map(isLooking)).toEqual([false, false]);
  });
});

describe('a check that was true before', () => {
  const see: Step = { do: 'see', target: 'Total', value: '12' };
  it('is one whatever else stands between, once anything between acts; without, it is only said twice', () => {
    expect(find('true before', make([see, { do: 'keep', target: 'No.' }, press('Save'), see]))).toHaveLength(1);
    expect(find('true before', make([see, { do: 'keep', target: 'No.' }, see]))).toEqual([]);
  });
});
