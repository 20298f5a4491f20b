import ExcelJS from 'exceljs';
import { describe, expect, it } from 'vitest';
import * as SheetJS from 'xlsx';
import { writeAttemptReport } from './attempt-report.ts';
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

describe('the report of an attempt', () => {
  it('tells every step as it was done, what was seen, and shows pictures', () => {
    const html = writeAttemptReport(
      {
        ...{
          title: 'Price the quote',
          about: '',
          number: 2,
          person: 'Ines Varga',
          outcome: 'failed',
          startedAt: '',
          finishedAt: '',
          environment: 'Rehearsal',
          browser: 'Chromium',
          persona: 'Planner',
        },
        ...{ came: [{ name: 'Survey no.', value: 'SV-1' }], kept: [], defects: [{ code: 'TQ-1', title: 'Wrong band', status: 'new' }] },
        steps: [
          {
            text: 'Fill "Band" with "B".',
            expect: '512.50',
            outcome: 'failed',
            note: 'It says <310>',
            ...{ by: 'north-1', looked: 'Looked for 512.50.' },
            pictures: [
              { name: 'a.png', address: 'data:image/png;base64,AA' },
              { name: 'b.pdf', address: null },
            ],
          },
        ],
      },
      HEAD,
    );
    for (const text of [
      'Seen: It says &lt;310&gt;',
      'You should see: 512.50',
      ', by north-1',
      'Looked for 512.50.',
      'src="data:image/png;base64,AA"',
      'b.pdf',
      'TQ-1 Wrong band',
    ])
      expect(html).toContain(text);
  });
});
