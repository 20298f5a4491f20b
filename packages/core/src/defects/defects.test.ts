import { describe, expect, it } from 'vitest';
import { createStepSource } from '../turns/step-source.ts';
import { asksWhy, decideAfterRetest, DEFECT_STATUSES, isAtRetest, isHolding, isOver, listDefectMoves, nameDefectMove } from './defect.ts';
import { describeSteps } from './describe-steps.ts';

describe('a defect after its retests', () => {
  it('is closed when all passed, open again when one failed, and waits otherwise', () => {
    expect(decideAfterRetest('fixed', ['passed', 'passed'])).toBe('closed');
    expect(decideAfterRetest('fixed', ['passed', 'failed'])).toBe('accepted');
    expect(decideAfterRetest('fixed', ['passed', 'to come'])).toBe('fixed');
    expect(decideAfterRetest('accepted', ['passed'])).toBe('accepted');
    expect(decideAfterRetest('fixed', [])).toBe('fixed');
  });

  it('never moves to a status that does not exist, and holds only while new or accepted', () => {
    const reached = new Set<string>(['new', ...DEFECT_STATUSES.flatMap((status) => listDefectMoves(status))]);
    expect(DEFECT_STATUSES.filter((status) => !reached.has(status))).toEqual([]);
    expect(DEFECT_STATUSES.filter(isOver)).toEqual(['closed', 'declined']);
    expect(DEFECT_STATUSES.filter(isAtRetest)).toEqual(['fixed']);
    expect(DEFECT_STATUSES.filter(asksWhy)).toEqual(['declined']);
    expect([nameDefectMove('new', 'accepted'), nameDefectMove('closed', 'accepted'), nameDefectMove('fixed', 'closed')]).toEqual([
      'Accept',
      'Open again',
      'Close',
    ]);
    expect(DEFECT_STATUSES.filter(isHolding)).toEqual(['new', 'accepted']);
  });
});

describe('the steps of a defect', () => {
  it('are numbered, with the values that were used and how each went', () => {
    const source = createStepSource({
      ...{ attempt: 'a', day: '2026-11-20', calendar: { workingDays: [1, 2, 3, 4, 5], holidays: [] } },
      values: [
        { name: 'Survey no.', value: 'SV-40172' },
        { name: 'Nothing', value: null },
      ],
    });
    const steps = [
      { do: 'fill' as const, target: 'Survey number', value: '{survey no.}' },
      { do: 'fill' as const, target: 'Valid until', value: '{today + 3 working days}' },
      { do: 'press' as const, target: 'Save', expect: 'saved' },
      { do: 'press' as const, target: 'Never told' },
    ];
    expect(describeSteps({ steps, upTo: 2, source, outcomeAt: (index) => (index === 2 ? 'failed' : 'passed') })).toEqual([
      '1. Fill "Survey number" with "SV-40172". (passed)',
      '2. Fill "Valid until" with "2026-11-25". (passed)',
      '3. Press "Save". You should see: saved (failed)',
    ]);
  });
});
