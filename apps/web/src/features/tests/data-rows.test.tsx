import type { SaveTest } from '@kindred-baton/contracts/tests/test';
import { screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { openScreen } from '../../../test-support/open-screen.tsx';
import { DataRows } from './data-rows.tsx';

type Rows = SaveTest['rows'];
const NEEDS: SaveTest['needs'] = [
  { name: 'Survey no.', type: 'text', required: true },
  { name: 'Street', type: 'text', required: true },
];
const ROWS: Rows = [
  { name: 'Farm', values: { 'survey NO.': 'SV-1', Street: 'Mill Lane' } },
  { name: 'Shop', as: 'Clerk', values: { 'Survey no.': 'SV-2', Street: 'Mill Lane' } },
];

function open(rows: Rows = ROWS, canEdit = true) {
  let now: Rows = rows;
  const opened = openScreen(<Part />);
  function Part() {
    const [current, setCurrent] = useState(rows);
    now = current;
    return <DataRows code="BIL-01" rows={current} needs={NEEDS} personas={['Clerk']} canEdit={canEdit} onChange={setCurrent} />;
  }
  opened.show();
  return { ...opened, rows: () => now };
}

describe('data rows of a test', () => {
  it('show the value of each input by its name, however it is written, and stand out where they differ from the first', () => {
    open();
    expect(screen.getByLabelText('Row 1: Survey no.')).toHaveProperty('value', 'SV-1');
    expect(screen.getByLabelText('Row 2: Survey no.').className).toContain('font-bold');
    expect(screen.getByLabelText('Row 2: Street').className).not.toContain('font-bold');
  });

  it('are added, typed in, copied under a name of their own, and taken out', async () => {
    const { user, rows } = open();
    await user.click(screen.getByRole('button', { name: 'Copy row 1' }));
    expect(rows().map(({ name }) => name)).toEqual(['Farm', 'Farm 2', 'Shop']);
    await user.type(screen.getByLabelText('Row 2: Street'), '!');
    await user.click(screen.getByRole('button', { name: 'Take row 1 out' }));
    await user.click(screen.getByRole('button', { name: 'Add a row' }));
    await user.type(screen.getByLabelText('Row 3: as'), 'Clerk');
    expect(rows()).toEqual([
      { name: 'Farm 2', values: { 'survey NO.': 'SV-1', Street: 'Mill Lane!' } },
      ROWS[1],
      { name: 'Row 3', as: 'Clerk', values: {} },
    ]);
    await user.clear(screen.getByLabelText('Row 3: as'));
    expect(rows()[2]?.as).toBeUndefined();
  });

  it('take a block of a spreadsheet from the cell on, and a word as a word', async () => {
    const { user, rows } = open();
    await user.click(screen.getByLabelText('Row 2: Survey no.'));
    await user.paste('SV-8\tQuay\nSV-9\tHill');
    expect(rows().map(({ values }) => values['Survey no.'])).toEqual([undefined, 'SV-8', 'SV-9']);
    expect(rows()[2]?.values['Street']).toBe('Hill');
    await user.click(screen.getByLabelText('Row 1: Street'));
    await user.paste(' end');
    expect(rows()[0]?.values['Street']).toBe('Mill Lane end');
  });

  it('come from a file behind those that are there; a file with a fault brings nothing, and says why', async () => {
    const { user, server, rows } = open();
    const read = { rows: [{ name: 'Read', values: { Street: 'Quay' } }], problems: [] };
    server.on('readDataRows', () => read);
    const input = () => screen.getByLabelText('File with data rows');
    await user.upload(input(), new File(['x'], 'rows.csv'));
    await screen.findByText('1 row taken in from rows.csv.');
    expect(rows().map(({ name }) => name)).toEqual(['Farm', 'Shop', 'Read']);
    server.on('readDataRows', () => ({
      ...read,
      problems: ['Column Strasse is not known.', 'Row 2 has no name.', 'Row 3 has no name.'].map((message) => ({ sheet: 'rows', message })),
    }));
    await user.upload(input(), new File(['x'], 'wrong.csv'));
    await screen.findByText('wrong.csv: Column Strasse is not known. And 2 things more. Nothing was taken in.');
    expect(rows()).toHaveLength(3);
    server.goAway();
    await user.upload(input(), new File(['x'], 'away.csv'));
    await waitFor(() => expect(screen.getByText(/The server does not answer/)).toBeTruthy());
  });

  it('say how soon fresh values repeat', () => {
    open([{ name: 'One', values: { Street: '{new AA-99}' } }]);
    // 24 letters (no I, no O), twice, and two digits; after √(2 · ln 2 · n) draws a repeat is as likely as not (the birthday problem, W. Feller 1950).
    const repeat = Math.ceil(Math.sqrt(2 * Math.LN2 * 24 * 24 * 100));
    expect(screen.getByText(/as likely as not/).textContent).toContain(`has 57,600 values; after ${repeat} attempts`);
  });

  it('are only read by who may not edit', () => {
    open(ROWS, false);
    expect(screen.queryByRole('textbox')).toBeNull();
    expect(screen.queryByRole('button', { name: /row/i })).toBeNull();
    expect(screen.getAllByRole('cell').map(({ textContent }) => textContent)).toEqual([
      'Farm',
      '',
      'SV-1',
      'Mill Lane',
      'Shop',
      'Clerk',
      'SV-2',
      'Mill Lane',
    ]);
  });
});
