import { describe, expect, it } from 'vitest';
import type { StepCheck } from '../tests/step-checks.ts';
import { STEP_CHECKS } from '../tests/step-checks.ts';
import { decideCheck } from './decide-check.ts';
import type { Made } from './screen.test-data.ts';
import { makeCapture } from './screen.test-data.ts';

const cells = (tag: string, y: number, words: readonly string[]): Made => ({
  tag: 'tr',
  at: [0, y, 600, 20],
  holds: words.map((word, k): Made => ({ tag, at: [k * 200, y, 190, 20], holds: [word] })),
});
const PAGE = makeCapture(
  { tag: 'h2', holds: ['Payments'], at: [0, 0, 200, 20] },
  {
    tag: 'table',
    at: [0, 30, 600, 80],
    holds: [cells('th', 30, ['Bill', 'Paid', 'Note']), cells('td', 50, ['BL-1', '10.00', '']), cells('td', 70, ['BL-2', '10.00', 'late'])],
  },
  { tag: 'input', attributes: { 'aria-label': 'Total' }, value: '1,512.50', at: [0, 200, 100, 20] },
  { tag: 'p', holds: ['The quote was saved'], at: [0, 230, 300, 20] },
);
const decide = (name: string, check: StepCheck | undefined, value = '') => {
  const { holds, actual } = decideCheck(PAGE, { want: 'shown', name }, check, value);
  return [holds, actual];
};

describe('what is said of a thing', () => {
  it('is that it is there, or shows the value whole', () => {
    expect(decide('The quote was saved', undefined)[0]).toBe(true);
    expect(decide('Total', undefined, '1,512.50')).toEqual([true, '1,512.50']);
    // Part of a number is another number.
    expect(decide('Total', undefined, '512.50')).toEqual([false, '1,512.50']);
    expect(decide('Refund', undefined)[0]).toBe(false);
  });

  it.each<[StepCheck, string, string, boolean, string]>([
    ['not there', 'Refund', '', true, ''],
    ['not there', 'Total', '', false, 'It is there.'],
    ['not showing', 'Total', '9.00', true, '1,512.50'],
    ['not showing', 'Total', '1,512.50', false, '1,512.50'],
    ['containing', 'Total', '12.5', true, '1,512.50'],
    ['at least', 'Total', '1512.5', true, '1,512.50'],
    ['at least', 'Total', '1513', false, '1,512.50'],
    ['at most', 'Total', '1,513.00', true, '1,512.50'],
    ['counting', 'Payments', '2', true, '2'],
    ['counting', 'Payments', '3', false, '2'],
    ['with headings', 'Payments', 'Bill, Paid, Note', true, 'Bill, Paid, Note'],
    ['with headings', 'Payments', 'Paid, Bill, Note', false, 'Bill, Paid, Note'],
    ['all different', 'Bill', '', true, 'BL-1, BL-2'],
    ['all different', 'Paid', '', false, '“10.00” is there twice.'],
    ['none empty', 'Paid', '', true, '10.00, 10.00'],
    ['none empty', 'Note', '', false, '1 of 2 are empty.'],
  ])('%s: %s %s', (check, name, value, holds, actual) => expect(decide(name, check, value)).toEqual([holds, actual]));

  it('does not hold of what is nowhere: an absent list is neither different nor filled', () => {
    for (const check of STEP_CHECKS)
      if (check !== 'not there') expect([check, decide('Nowhere', check, check === 'counting' ? '2' : 'x')[0]]).toEqual([check, false]);
  });
});
