import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { deriveInterface } from './interface.ts';
import { parseStep } from './parse-step.ts';
import { printStep } from './print-step.ts';
import { STEP_CHECKS } from './step-checks.ts';
import { findAction } from './step-verbs.ts';
import type { Step } from './step.ts';
import { normalizeStep, STEP_ACTIONS } from './step.ts';

const word = fc.string({ minLength: 1, maxLength: 24 }).filter((text) => text.trim() !== '');
const anyStep: fc.Arbitrary<Step> = fc
  .record(
    {
      do: fc.constantFrom(...STEP_ACTIONS),
      target: word,
      within: word,
      beside: word,
      value: fc.oneof(word, fc.constantFrom('{Quote no.}', '{today + 90 days}', '{new AA-9999}', 'to {Customer} on {today}')),
      expect: word,
      keepAs: word,
      optional: fc.boolean(),
      as: word,
      check: fc.constantFrom(...STEP_CHECKS),
      seconds: fc.integer({ min: 1, max: 600 }),
    },
    { requiredKeys: ['do', 'target'] },
  )
  .map((step) => normalizeStep(step as Step))
  .filter((step) => step.target !== '' && step.keepAs !== '');

describe('a step as a sentence', () => {
  it('reads back what it prints: parse(print(step)) is the step (seed 4217)', () => {
    fc.assert(
      fc.property(anyStep, (step) => {
        expect(parseStep(printStep(step))).toEqual({ ok: true, step });
      }),
      { seed: 4217, numRuns: 1_000 },
    );
  });

  it('prints uniformly', () => {
    expect(printStep({ do: 'fill', target: 'Survey number', value: '{Survey no.}', expect: 'Address is filled in' })).toBe(
      'Fill "Survey number" with {Survey no.}. You should see: Address is filled in',
    );
    expect(printStep({ do: 'see', target: 'Connection charge', within: 'Quote', value: '512.50', as: 'accountant', optional: true })).toBe(
      'As "accountant": Optionally see "Connection charge" in "Quote" showing "512.50".',
    );
  });

  it.each<[string, Partial<Step>]>([
    ['open the Quotes in "Millrace Billing"', { do: 'go', target: 'Quotes', within: 'Millrace Billing' }],
    ['Click on Save', { do: 'press', target: 'Save' }],
    ['Select "Customer band" as B', { do: 'pick', target: 'Customer band', value: 'B' }],
    ['Set Discount to 10', { do: 'fill', target: 'Discount', value: '10' }],
    ['Check that Total is 96.40', { do: 'see', target: 'Total', value: '96.40' }],
    ['Note down the Quote number', { do: 'keep', target: 'Quote number', keepAs: 'Quote number' }],
    ['Read "Receipt number" and keep it as "Receipt no."', { do: 'keep', target: 'Receipt number', keepAs: 'Receipt no.' }],
    ['Tap Pay → a receipt is printed', { do: 'press', target: 'Pay', expect: 'a receipt is printed' }],
    ['Wait for "Run over"', { do: 'wait', target: 'Run over' }],
  ])('reads “%s”', (sentence, step) => {
    const reading = parseStep(sentence);
    expect(reading.ok ? reading.step : reading.message).toMatchObject(step);
  });

  it.each<[string, Partial<Step>]>([
    ['See a row with "OR-1" shows "open", within 30 seconds', { target: 'open', beside: 'OR-1', seconds: 30 }],
    ['see that the row with {Order no.} in "Orders" shows {State}', { target: '{State}', within: 'Orders', beside: '{Order no.}' }],
    ['See "State" in the row with "OR-1" showing "open"', { target: 'State', beside: 'OR-1', value: 'open' }],
    ['See the row with "OR-1"', { target: 'OR-1' }],
  ])('reads “%s”', (sentence, step) => {
    expect(parseStep(sentence)).toEqual({ ok: true, step: { do: 'see', ...step } });
  });

  it.each(['', 'The weather is fine', 'Press', 'Fill "A" with "B" with "C"'])('says why “%s” is not a step', (sentence) => {
    const reading = parseStep(sentence);
    expect(reading.ok ? '' : reading.message).not.toBe('');
    expect(reading.ok).toBe(false);
  });

  it('knows an action by its word alone, and nothing longer', () => {
    expect([findAction('click'), findAction('Enter'), findAction('select'), findAction('dance'), findAction('click Save')]).toEqual([
      'press',
      'fill',
      'pick',
      undefined,
      undefined,
    ]);
  });
});

describe('needs and gives', () => {
  const steps: Step[] = [
    { do: 'fill', target: 'Survey number', value: '{Survey no.}' },
    { do: 'keep', target: 'Quote number', keepAs: 'Quote no.' },
    { do: 'see', target: 'Charge', value: '{Charge expected}', expect: 'for {quote no.} of {Customer}' },
  ];

  it('are the names used before they are kept, and the names kept', () => {
    const { needs, gives } = deriveInterface(steps);
    expect(needs.map(({ name }) => name)).toEqual(['Survey no.', 'Charge expected', 'Customer']);
    expect(gives.map(({ name }) => name)).toEqual(['Quote no.']);
  });

  it('keep the types that the author confirmed, and guess the others', () => {
    const known = { needs: [{ name: 'survey no.', type: 'code' as const, pattern: 'SV-99999' }], gives: [] };
    const { needs } = deriveInterface(steps, known);
    expect(needs[0]).toMatchObject({ name: 'Survey no.', type: 'code', pattern: 'SV-99999' });
    expect(needs[1]).toMatchObject({ type: 'money' });
  });
});
