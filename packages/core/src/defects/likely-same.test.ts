import { describe, expect, it } from 'vitest';
import { findLikelySame } from './find-likely-same.ts';
import { printDefect } from './print-defect.ts';

const words = {
  test: 'QUO-02',
  stepIndex: 3,
  title: 'Charge ignores metres over ten',
  expected: '512.50',
  seen: 'The charge stays at 310.00',
  step: '4. Fill "Pipe length" with "14.5".',
};

describe('likely the same', () => {
  const known = [
    { ...words, code: 'D-1', title: 'Charge is wrong above ten metres', seen: 'Charge stays at 310.00 for 14.5 m' },
    {
      ...words,
      code: 'D-2',
      test: 'STO-01',
      title: 'Delivery note prints without a date',
      seen: 'The date is empty',
      step: '1. Press "Print".',
    },
    { ...words, code: 'D-3', title: 'Page title is misspelt', seen: 'It says Qoute', step: '4. Press "Save".' },
  ];
  it('is what shares the step and the words, with the reason', () => {
    const [first, ...rest] = findLikelySame(words, known);
    expect(first).toMatchObject({ code: 'D-1', why: ['step', 'words', 'values'] });
    expect(rest.map(({ code }) => code)).toEqual(expect.not.arrayContaining(['D-2']));
  });
  it('is nothing where nothing is alike', () =>
    expect(findLikelySame({ ...words, test: 'X', title: 'Printer jams', seen: 'Paper', step: '' }, known)).toEqual([]));
});

describe('a defect as text', () => {
  it('has all that another tracker needs, and no empty parts', () => {
    const text = printDefect({
      ...words,
      ...{
        code: 'D-7',
        kind: 'function',
        severity: 'slows the business',
        priority: 'high',
        status: 'new',
        steps: ['1. Open "Quotes".'],
        environment: 'Rehearsal',
      },
      ...{
        browser: 'Chromium',
        persona: '',
        run: 'Acceptance round 2, run 14',
        baton: [{ name: 'quote no.', value: 'Q-1' }],
        pictures: [],
      },
    });
    expect(text).toContain('Seen:\n  The charge stays at 310.00');
    expect(text).toContain('quote no.: Q-1');
    expect(text).not.toContain('Pictures');
  });
});
