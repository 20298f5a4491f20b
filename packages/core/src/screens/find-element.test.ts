import { describe, expect, it } from 'vitest';
import { describeFinding } from './describe-finding.ts';
import type { Target } from './find-element.ts';
import { findElement } from './find-element.ts';
import { nameElement } from './name-element.ts';
import { readShown } from './read-shown.ts';
import type { Made } from './screen.test-data.ts';
import { makeCapture } from './screen.test-data.ts';

/** An old page: labels in the cell before their field, tied to nothing. */
const row = (label: string, y: number, field: Made): Made => ({
  tag: 'tr',
  at: [0, y, 600, 20],
  holds: [
    { tag: 'td', at: [0, y, 150, 20], holds: [label] },
    { tag: 'td', at: [160, y, 300, 20], holds: [{ ...field, at: [162, y, 200, 20] }] },
  ],
});
const input = (value = '', attributes: Record<string, string> = {}): Made => ({
  tag: 'input',
  attributes: { type: 'text', ...attributes },
  value,
});
const OLD_PAGE = makeCapture(
  {
    tag: 'table',
    at: [0, 0, 600, 60],
    holds: [
      row('Survey number:', 0, input('SV-1')),
      row('Valid until *', 30, input()),
      row('Charge', 60, { tag: 'span', holds: ['512.50'] }),
    ],
  },
  { tag: 'input', attributes: { type: 'submit', value: 'Save quote' }, at: [0, 100, 80, 20] },
);
const find = (capture: ReturnType<typeof makeCapture>, target: Target) => findElement(capture, target);

describe('finding what a step means', () => {
  it('reads the words before a field as its label, whatever stands around them', () => {
    const finding = find(OLD_PAGE, { want: 'field', name: 'survey  number' });
    expect(finding.kind === 'found' && readShown(finding.element)).toBe('SV-1');
    expect(find(OLD_PAGE, { want: 'field', name: 'Valid until' }).kind).toBe('found');
    expect(find(OLD_PAGE, { want: 'press', name: 'Save quote' }).kind).toBe('found');
    const charge = find(OLD_PAGE, { want: 'shown', name: 'Charge' });
    expect(charge.kind === 'found' && readShown(charge.element)).toBe('512.50');
  });

  it('says what is nearest where nothing has the name, and nothing far-fetched', () => {
    const renamed = makeCapture({ tag: 'label', attributes: { for: 'a' }, holds: ['Survey reference'] }, input('', { id: 'a' }));
    const target: Target = { want: 'field', name: 'Survey number' };
    expect(describeFinding(find(renamed, target), target)).toBe(
      'There is no field “Survey number” on this screen; the nearest is “Survey reference”.',
    );
    const press: Target = { want: 'press', name: 'Refund' };
    expect(describeFinding(find(renamed, press), press)).toBe('There is no button or link “Refund” on this screen.');
  });

  const twice = makeCapture(
    {
      tag: 'fieldset',
      at: [0, 0, 400, 40],
      holds: [
        { tag: 'legend', holds: ['Sender'], at: [0, 0, 100, 10] },
        { tag: 'button', holds: ['Change'], at: [0, 20, 80, 20] },
      ],
    },
    {
      tag: 'fieldset',
      at: [0, 60, 400, 40],
      holds: [
        { tag: 'legend', holds: ['Receiver'], at: [0, 60, 100, 10] },
        { tag: 'button', holds: ['Change'], at: [0, 80, 80, 20] },
      ],
    },
  );
  it('does not choose between two of a name; the part of the screen tells them apart', () => {
    const target: Target = { want: 'press', name: 'Change' };
    expect(describeFinding(find(twice, target), target)).toBe(
      '“Change” is on this screen 2 times; the step should say what it stands in or beside.',
    );
    const inner = find(twice, { ...target, within: 'Receiver' });
    expect(inner.kind === 'found' && inner.element.box.y).toBe(80);
    const nowhere: Target = { ...target, within: 'Payer' };
    expect(describeFinding(find(twice, nowhere), nowhere)).toBe(
      'Nothing called “Payer” is on this screen, so “Change” was not looked for there.',
    );
  });

  const heads: Made = {
    tag: 'tr',
    at: [0, 0, 600, 20],
    holds: ['Bill', 'Paid'].map((head, k): Made => ({ tag: 'th', holds: [head], at: [k * 200, 0, 190, 20] })),
  };
  const bill = (number: string, paid: string, y: number): Made => ({
    tag: 'tr',
    at: [0, y, 600, 20],
    holds: [
      { tag: 'td', at: [0, y, 190, 20], holds: [number] },
      { tag: 'td', at: [200, y, 190, 20], holds: [{ tag: 'input', attributes: { type: 'text' }, value: paid, at: [202, y, 80, 20] }] },
    ],
  });
  const grid = makeCapture({ tag: 'table', at: [0, 0, 600, 80], holds: [heads, bill('BL-1', '10.00', 20), bill('BL-2', '20.00', 40)] });
  it('finds a cell by the heading of its column and what stands in its row', () => {
    expect(find(grid, { want: 'field', name: 'Paid' }).kind).toBe('several');
    const second = find(grid, { want: 'field', name: 'Paid', beside: 'BL-2' });
    expect(second.kind === 'found' && second.element.value).toBe('20.00');
  });

  it('tells hidden from absent, fixed from free, and reaches nothing behind a dialog', () => {
    const page = makeCapture(
      { tag: 'button', holds: ['Old act'], isHidden: true },
      { tag: 'input', attributes: { 'aria-label': 'Number', readonly: '' }, value: 'QT-1' },
      { tag: 'button', holds: ['Save'] },
      {
        tag: 'div',
        attributes: { role: 'dialog', 'aria-modal': 'true', 'aria-label': 'Sure?' },
        holds: [{ tag: 'button', holds: ['Yes'] }],
      },
    );
    expect(find(page, { want: 'press', name: 'Old act' }).kind).toBe('hidden');
    expect(find(page, { want: 'press', name: 'Save' }).kind).toBe('none');
    expect(find(page, { want: 'press', name: 'Yes' }).kind).toBe('found');
    const [, number] = makeCapture({ tag: 'input', attributes: { 'aria-label': 'Number', readonly: '' }, value: 'QT-1' }).elements;
    expect(number?.isFixed).toBe(true);
  });

  it('gives the shortest words that find an element and no other', () => {
    const [first, second] = twice.elements.filter(({ role }) => role === 'button');
    expect(nameElement(twice, first!, 'press')).toEqual({ want: 'press', name: 'Change', within: 'Sender' });
    expect(nameElement(twice, second!, 'press')).toEqual({ want: 'press', name: 'Change', within: 'Receiver' });
    const fields = grid.elements.filter(({ role }) => role === 'textbox');
    expect(fields.map((field) => nameElement(grid, field, 'field'))).toEqual([
      { want: 'field', name: 'Paid', beside: 'BL-1' },
      { want: 'field', name: 'Paid', beside: 'BL-2' },
    ]);
  });
});
