import ExcelJS from 'exceljs';
import { describe, expect, it } from 'vitest';
import * as SheetJS from 'xlsx';
import { writeAttemptReport } from './attempt-report.ts';
import type { ReportedAttempt } from './reported-attempt.ts';
import { writeRunReport } from './run-report.ts';
import { printTurnSheet, readTurnSheet, writeTurnSheet } from './turn-sheet.ts';

const TURN = {
  ...{
    mark: 'turn/0011aabb',
    title: 'Price the quote',
    about: 'Acceptance round 2 · leg 3 of 9',
    tester: 'Ines Varga',
    environment: 'Rehearsal',
    note: 'Ask for the band',
  },
  values: [{ name: 'Survey no.', value: '=SV-1' }],
  steps: [
    { text: 'Fill "Band" with "B".', expect: 'The charge is 512.50', keeps: '' },
    { text: 'Keep "Quote number".', expect: '', keeps: 'Quote no.' },
  ],
};
const HEAD = { title: 'Turn', programme: 'North', day: '26 November 2026', paper: 'A4' as const };

/** As somebody fills it in. */
async function fill(bytes: Uint8Array, change: (sheet: ExcelJS.Worksheet) => void): Promise<Uint8Array> {
  const workbook = new ExcelJS.Workbook();
  await workbook.xlsx.load(bytes.buffer as ArrayBuffer);
  change(workbook.worksheets[0]!);
  return new Uint8Array((await workbook.xlsx.writeBuffer()) as ArrayBuffer);
}

describe('a turn sheet', () => {
  it('comes back as it was filled in', async () => {
    const filled = await fill(await writeTurnSheet(TURN), (sheet) => {
      sheet.getCell('D9').value = 'did not';
      sheet.getCell('E9').value = 'It says 310.00';
      sheet.getCell('D10').value = 'worked';
      sheet.getCell('G10').value = 'Q-77';
    });
    expect(await readTurnSheet({ bytes: filled })).toEqual({
      ok: true,
      mark: 'turn/0011aabb',
      lines: [
        { number: 1, step: 'Fill "Band" with "B".', outcome: 'did not', note: 'It says 310.00', kept: '' },
        { number: 2, step: 'Keep "Quote number".', outcome: 'worked', note: '', kept: 'Q-77' },
      ],
    });
  });

  it('is read back by SheetJS 0.18.5 as it was written, and a value is never a formula', async () => {
    const workbook = SheetJS.read(await writeTurnSheet(TURN));
    const sheet = workbook.Sheets[workbook.SheetNames[0] ?? ''];
    expect((sheet?.['A5'] as SheetJS.CellObject).v).toBe('Survey no.: =SV-1');
    expect((sheet?.['A5'] as SheetJS.CellObject).f).toBeUndefined();
    expect((sheet?.['B9'] as SheetJS.CellObject).v).toBe('Fill "Band" with "B".');
  });

  it.each([
    ['no workbook', async () => new TextEncoder().encode('a,b\n1,2')],
    ['another workbook', async () => fill(await writeTurnSheet(TURN), (sheet) => sheet.spliceRows(7, 1))],
  ])('is refused in a sentence when it is %s', async (_, bytes) =>
    expect(await readTurnSheet({ bytes: await bytes() })).toMatchObject({
      ok: false,
      message: expect.stringContaining('This is no turn sheet'),
    }),
  );

  it('is printed with places to write, and no markup of its texts alive', () => {
    const html = printTurnSheet({ ...TURN, title: '<script>x</script>' }, HEAD);
    expect(html).toContain('&lt;script&gt;');
    expect(html).toContain('Quote no.:');
  });
});

const ATTEMPT: ReportedAttempt = {
  ...{ number: 2, person: 'Ines Varga', outcome: 'failed', startedAt: '', finishedAt: '', environment: 'Rehearsal', browser: 'Chromium' },
  kept: [],
  steps: [
    {
      ...{ text: 'Fill "Band" with "B".', expect: '512.50', outcome: 'failed', note: 'It says <310>' },
      ...{ by: 'north-1', looked: 'Looked for 512.50.' },
      pictures: [
        { name: 'a.png', address: 'picture-1' },
        { name: 'b.pdf', address: null },
      ],
    },
  ],
};

describe('the report of an attempt', () => {
  it('tells every step as it was done, what was seen, and shows pictures', () => {
    const html = writeAttemptReport(
      {
        ...{ title: 'Price the quote', about: '', came: [{ name: 'Survey no.', value: 'SV-1' }] },
        ...{ defects: [{ code: 'TQ-1', title: 'Wrong band', status: 'new' }], attempt: ATTEMPT },
      },
      HEAD,
    );
    for (const text of [
      'Seen: It says &lt;310&gt;',
      'You should see: 512.50',
      ', by north-1',
      'Looked for 512.50.',
      'src="picture-1"',
      'b.pdf',
      'TQ-1 Wrong band',
    ])
      expect(html).toContain(text);
  });
});

describe('the report of a run', () => {
  const leg = {
    ...{ test: 'TC-1', team: 'Survey', by: 'Ines Varga', at: '', about: '', came: [], defects: [], attempt: null, earlier: [] },
  };
  const run = {
    ...{ title: 'New connection, flat', outcome: 'failed', about: 'SC-1 · Rehearsal · run 3', remarks: ['It left its cycle: next round.'] },
    values: [{ name: 'Survey no.', value: 'SV-1 & more', from: '1. Survey' }],
    legs: [
      { ...leg, leg: 1, title: 'Survey', status: 'failed', attempt: ATTEMPT, earlier: ['Attempt 1, Karim Bol: blocked'] },
      { ...leg, leg: 2, title: 'Price the quote', status: 'held' },
    ],
  };

  it('has every leg in its order, tried or not, every value with where it is from, and all attempts', () => {
    const html = writeRunReport(run, HEAD);
    for (const text of [
      ...[
        'New connection, flat: failed',
        'It left its cycle: next round.',
        'SV-1 &amp; more',
        '1. Survey: failed',
        '2. Price the quote: held',
      ],
      ...['Nobody has tried it.', 'Attempt 1, Karim Bol: blocked', 'src="picture-1"', 'Seen: It says &lt;310&gt;'],
    ])
      expect(html).toContain(text);
    expect(html.indexOf('1. Survey: failed')).toBeLessThan(html.indexOf('2. Price the quote: held'));
  });

  it('says so where nothing was handed on', () =>
    expect(writeRunReport({ ...run, values: [] }, HEAD)).toContain('Nothing was handed on yet.'));
});
