import { describe, expect, it } from 'vitest';
import { printStep } from '../tests/print-step.ts';
import type { Step } from '../tests/step.ts';
import { readFilledSheet, readOutcome, toSheetMark } from './turn-sheet.ts';

const STEPS: Step[] = [
  { do: 'fill', target: 'Band', value: '{Band}' },
  { do: 'keep', target: 'Quote number', keepAs: 'Quote no.' },
];
const line = (number: number, outcome: string, more: object = {}) => ({
  number,
  step: printStep(STEPS[number - 1] ?? STEPS[0]!),
  outcome,
  note: '',
  kept: '',
  ...more,
});

describe('a filled turn sheet', () => {
  it('says how each step went, in the words that people use', () => {
    const mark = toSheetMark('t', STEPS);
    expect(readFilledSheet({ mark, lines: [line(1, 'OK'), line(2, 'It worked.', { kept: ' Q-1 ' })] }, 't', STEPS)).toEqual({
      ok: true,
      steps: [
        { stepIndex: 0, outcome: 'passed', note: '', kept: '' },
        { stepIndex: 1, outcome: 'passed', note: '', kept: 'Q-1' },
      ],
    });
  });

  it('takes the values that were printed for the places in a step', () =>
    expect(
      readFilledSheet(
        { mark: toSheetMark('t', STEPS), lines: [line(1, '', { step: printStep({ ...STEPS[0]!, value: 'B' }) })] },
        't',
        STEPS,
      ).ok,
    ).toBe(true));

  it('is refused whole, with every problem and its step', () => {
    const mark = toSheetMark('t', STEPS);
    const reading = readFilledSheet(
      { mark, lines: [line(1, 'perhaps'), line(1, 'ok'), line(7, 'ok'), line(2, 'ok', { step: 'Press "Save".' })] },
      't',
      STEPS,
    );
    expect(reading.ok ? [] : reading.problems.map(({ step, message }) => [step, message.slice(0, 22)])).toEqual([
      [1, '“perhaps” is no outcom'],
      [7, 'There is no step 7; th'],
      [2, 'Step 2 was changed in '],
      [1, 'Step 1 stands in the s'],
    ]);
  });

  it('of another turn, or of steps that were changed, is not taken', () => {
    expect(readFilledSheet({ mark: toSheetMark('u', STEPS), lines: [] }, 't', STEPS)).toMatchObject({ ok: false });
    expect(readFilledSheet({ mark: toSheetMark('t', STEPS.slice(1)), lines: [] }, 't', STEPS)).toMatchObject({ ok: false });
    expect(readFilledSheet({ mark: '', lines: [] }, 't', STEPS)).toMatchObject({ ok: false });
  });

  it('knows an empty cell from an unknown word', () =>
    expect([readOutcome(' '), readOutcome('?'), readOutcome('FAIL')]).toEqual([null, undefined, 'failed']));
});
