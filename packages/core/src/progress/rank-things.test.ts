import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { CountedStep } from './rank-steps.ts';
import { getErrors, rankSteps } from './rank-steps.ts';
import type { NamingStep } from './rank-things.ts';
import { findThing, rankThings } from './rank-things.ts';

const STEPS: readonly NamingStep[] = [
  { do: 'fill', target: 'Search' },
  { do: 'go', target: 'Quotes', within: 'Millrace Billing' },
  { do: 'press', target: 'New quote' },
  { do: 'hand', target: 'Ring the customer' },
  { do: 'see', target: ' connection  CHARGE:' },
  { do: 'ask', target: 'GET /quotes', within: 'Billing interface' },
  { do: 'see', target: 'Status' },
];

describe('what a step is counted under', () => {
  it('is its target, in the application of where it went last', () => {
    expect(findThing('target', STEPS, 2, 'Works')).toEqual({
      key: 'millrace billing/new quote',
      name: 'New quote',
      application: 'Millrace Billing',
    });
    expect(findThing('target', STEPS, 4, '')?.key).toBe('millrace billing/connection charge');
    expect(findThing('target', STEPS, 0, 'Works')?.key).toBe('works/search');
  });

  it('or the screen, which is not known before one was gone to, nor for what is done by hand', () => {
    expect(findThing('screen', STEPS, 4, '')).toMatchObject({ name: 'Quotes', application: 'Millrace Billing' });
    expect(findThing('screen', STEPS, 6, '')).toMatchObject({ name: 'GET /quotes' });
    expect(findThing('screen', STEPS, 0, 'Works')).toBeNull();
    expect(findThing('screen', STEPS, 3, 'Works')).toBeNull();
    expect(findThing('target', STEPS, 99, 'Works')).toBeNull();
  });
});

describe('things by what goes wrong', () => {
  const counted = fc.array(
    fc
      .record({ version: fc.constantFrom('a', 'b', 'c'), index: fc.nat(5), tries: fc.integer({ min: 1, max: 40 }), wrong: fc.nat(40) })
      .map(({ wrong, ...step }): CountedStep => ({ ...step, test: `of ${step.version}`, failed: Math.min(wrong, step.tries), blocked: 0 })),
  );
  const thingOf = ({ index }: CountedStep) =>
    index === 5 ? null : { key: String(index % 2), name: `Thing ${index % 2}`, application: '' };

  it('have the tries and errors of their steps, each once; what has no place is said', () => {
    fc.assert(
      fc.property(counted, (steps) => {
        const { wrong, unplaced } = rankThings(steps, thingOf);
        const errors = wrong.reduce((sum, thing) => sum + getErrors(thing), 0);
        expect(errors + unplaced).toBe(steps.reduce((sum, step) => sum + getErrors(step), 0));
        for (const thing of wrong) {
          const own = steps.filter((step) => thingOf(step)?.key === thing.key);
          expect(thing.tries).toBe(own.reduce((sum, { tries }) => sum + tries, 0));
          expect([thing.steps, thing.tests]).toEqual([own.length, new Set(own.map(({ test }) => test)).size]);
        }
        expect(wrong.map(({ low }) => low)).toEqual(wrong.map(({ low }) => low).sort((a, b) => b - a));
      }),
    );
  });

  it('are ranked as steps are, where each step is a thing of its own', () => {
    fc.assert(
      fc.property(counted, (steps) => {
        const alone = rankSteps(steps, (place) => place);
        const sums = new Map(alone.wrong.map((step) => [`${step.version} ${step.index}`, step]));
        const { wrong } = rankThings(steps, ({ version, index }) => ({ key: `${version} ${index}`, name: '', application: '' }));
        expect(new Set(wrong.map(({ key }) => key))).toEqual(new Set(sums.keys()));
        for (const thing of wrong) expect(thing.low).toBeCloseTo(sums.get(thing.key)!.low, 12);
      }),
    );
  });
});
