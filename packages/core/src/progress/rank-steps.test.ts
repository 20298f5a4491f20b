import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Step } from '../tests/step.ts';
import type { CountedStep } from './rank-steps.ts';
import { getErrors, rankSteps } from './rank-steps.ts';
import { placeSteps } from './same-steps.ts';

const press = (target: string, more: Partial<Step> = {}): Step => ({ do: 'press', target, ...more });
const count = (version: string, index: number, tries: number, failed: number): CountedStep => ({
  ...{ test: 'T', version, index, tries, failed, blocked: 0 },
});
const asItIs = <Place>(place: Place) => place;

describe('a step of several versions', () => {
  const places = placeSteps([
    { id: 'v1', number: 1, steps: [press('Old'), press('Open'), press('Save')] },
    { id: 'v2', number: 2, steps: [press('Old'), press('Search'), press('Open'), press('Save', { expect: 'Saved' })] },
    { id: 'v3', number: 3, steps: [press('Search'), press('Open'), press('Save', { value: 'twice', expect: 'Saved' })] },
  ]);

  it('is one as long as it does the same with the same, wherever it stands', () => {
    expect(places.get('v1')?.[1]).toEqual({ version: 'v3', index: 1 });
    expect(places.get('v2')?.[1]).toEqual({ version: 'v3', index: 0 });
    // What is expected may change.
    expect(places.get('v1')?.[2]).toEqual({ version: 'v2', index: 3 });
  });

  it('is another where its value is another; what was taken out is one step as long as it was there', () => {
    expect(places.get('v3')?.[2]).toEqual({ version: 'v3', index: 2 });
    expect([places.get('v1')?.[0], places.get('v2')?.[0]]).toEqual([
      { version: 'v2', index: 0 },
      { version: 'v2', index: 0 },
    ]);
  });

  it('counts the same whether its tries were at one version or at several that say the same', () => {
    const steps = ['A', 'B', 'C', 'D'].map((target) => press(target));
    const numbers = fc.record({
      at: fc.integer({ min: 0, max: 3 }),
      tries: fc.integer({ min: 1, max: 50 }),
      version: fc.constantFrom('v1', 'v2', 'v3'),
    });
    const same = placeSteps(['v1', 'v2', 'v3'].map((id, i) => ({ id, number: i + 1, steps })));
    fc.assert(
      fc.property(fc.array(numbers), (list) => {
        const spread = list.map(({ at, tries, version }) => count(version, at, tries, Math.floor(tries / 2)));
        const at = ({ version, index }: { version: string; index: number }) => same.get(version)?.[index] ?? { version, index };
        expect(rankSteps(spread, at)).toEqual(
          rankSteps(
            spread.map((one) => ({ ...one, version: 'v3' })),
            asItIs,
          ),
        );
      }),
    );
  });
});

describe('where it goes wrong', () => {
  it('puts 11 of 19 above 2 of 2: two tries prove little', () => {
    const { wrong } = rankSteps([count('a', 0, 2, 2), count('b', 0, 40, 30), count('c', 0, 19, 11), count('d', 0, 9, 0)], asItIs);
    expect(wrong.map(({ version }) => version)).toEqual(['b', 'c', 'a']);
  });

  it('loses no try: what it counts is what it was given', () => {
    const some = fc.record({
      version: fc.constantFrom('a', 'b'),
      index: fc.integer({ min: 0, max: 5 }),
      failed: fc.nat(9),
      blocked: fc.nat(9),
      passed: fc.nat(9),
    });
    fc.assert(
      fc.property(fc.array(some), (list) => {
        const given = list
          .map(({ passed, ...one }): CountedStep => ({ ...one, test: 'T', tries: passed + one.failed + one.blocked }))
          .filter(({ tries }) => tries > 0);
        const ranked = rankSteps(given, asItIs);
        expect(ranked.tries).toBe(given.reduce((sum, { tries }) => sum + tries, 0));
        expect(ranked.errors).toBe(given.reduce((sum, one) => sum + getErrors(one), 0));
        expect(ranked.wrong.reduce((sum, one) => sum + getErrors(one), 0)).toBe(ranked.errors);
        for (const { low, high, tries, ...one } of ranked.wrong) {
          expect(low).toBeLessThanOrEqual(getErrors(one) / tries + 1e-12);
          expect(high).toBeGreaterThanOrEqual(getErrors(one) / tries - 1e-12);
        }
      }),
    );
  });
});
