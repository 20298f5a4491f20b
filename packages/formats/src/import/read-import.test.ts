import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { toWorkbookEntries } from '@kindred-baton/core/imports/workbook-entries';
import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import * as XLSX from 'xlsx';
import { writeBomb } from '../workbook/hostile-files.test-data.ts';
import { SHEET_LAYOUTS } from './layout.ts';
import { readImport } from './read-import.ts';
import { writeTemplate } from './write-template.ts';

type Rows = readonly (readonly unknown[])[];

const HEADS: Readonly<Record<string, readonly string[]>> = Object.fromEntries(
  Object.values(SHEET_LAYOUTS).map(({ name, columns }) => [name, columns.map(({ heading }) => heading)]),
);

/** A workbook as another program writes it: SheetJS (xlsx 0.18.5 from the npm registry). Sheets not given have headings only. */
function write(sheets: Readonly<Record<string, Rows | null>>): Uint8Array {
  const workbook = XLSX.utils.book_new();
  const given = { Processes: [HEADS['Processes']], Tests: [HEADS['Tests']], Scenarios: [HEADS['Scenarios']], ...sheets };
  for (const [name, rows] of Object.entries(given)) {
    if (rows) XLSX.utils.book_append_sheet(workbook, XLSX.utils.aoa_to_sheet(rows as unknown[][], { cellDates: true }), name);
  }
  return new Uint8Array(XLSX.write(workbook, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer);
}

const problemsOf = async (bytes: Uint8Array) =>
  (await readImport(bytes)).problems.map(({ sheet, row, column, message }) => `${sheet} ${row ?? ''} ${column ?? ''}: ${message}`);
const fixture = (name: string) =>
  new Uint8Array(readFileSync(fileURLToPath(new URL(`../../../../tests/fixtures/${name}`, import.meta.url))));
describe('a workbook that another program made', () => {
  // Made by openpyxl 3.0 and LibreOffice 7.4 (both from Debian), from the same rows.
  it.each(['street-lighting.openpyxl.xlsx', 'street-lighting.libreoffice.xlsx'])('%s is read whole', async (name) => {
    const { sheets, problems } = await readImport(fixture(name));
    expect(problems).toEqual([]);
    expect(toWorkbookEntries(sheets).problems).toEqual([]);
    expect(sheets.nodes.map(({ code, parent, isCritical }) => [code, parent, isCritical])).toContainEqual(['HL-1.1', 'HL-1', true]);
    expect(sheets.tests.map(({ code, minutes, steps }) => [code, minutes, steps.length])).toEqual([
      ['HL-T1', 6, 4],
      ['HL-T2', 25, 3],
      ['HL-T3', 9, 2],
    ]);
    expect(sheets.tests[0]?.steps.map(({ step }) => step.do)).toEqual(['go', 'fill', 'press', 'keep']);
    expect(sheets.scenarios[0]?.legs.map(({ test }) => test)).toEqual(['HL-T1', 'HL-T3', 'HL-T2']);
    expect(sheets.rows.map(({ values }) => values)).toEqual([{ Street: 'Mill Lane' }, { Street: 'Quay' }]);
  });

  it('may have real dates in its data rows', async () => {
    const rows = [
      ['Scenario', 'Row', 'Wanted by'],
      ['S-1', 'One', new Date(Date.UTC(2026, 2, 31))],
    ];
    const { sheets } = await readImport(write({ 'Data rows': rows }));
    expect(sheets.rows[0]?.values).toEqual({ 'Wanted by': '2026-03-31' });
  });
});

describe('the empty template', () => {
  it('is read back by SheetJS with every heading, and imports as nothing', async () => {
    const bytes = await writeTemplate();
    const workbook = XLSX.read(bytes);
    expect(workbook.SheetNames).toEqual(['Read me', 'Processes', 'Tests', 'Scenarios', 'Values', 'Data rows']);
    const heads = XLSX.utils.sheet_to_json<string[]>(workbook.Sheets['Tests'] ?? {}, { header: 1 })[0];
    expect(heads).toEqual(HEADS['Tests']);
    const { sheets, problems } = await readImport(bytes);
    expect(problems).toEqual([]);
    expect(sheets).toEqual({ nodes: [], tests: [], fields: [], scenarios: [], rows: [] });
  });
});

describe('a wrong workbook gets a sentence with its place', () => {
  const P = HEADS['Processes'] ?? [];
  const T = HEADS['Tests'] ?? [];
  const test = (cells: Readonly<Record<string, unknown>>) => T.map((head) => cells[head] ?? null);

  it.each<[string, () => Uint8Array, RegExp]>([
    ['empty', () => new Uint8Array(), /The file is empty/],
    ['no workbook', () => new TextEncoder().encode('Code;Name\nNS;New supply'), /not a workbook/],
    [
      'locked, or .xls',
      () => Uint8Array.from([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1]),
      /protected with a password, or is in the old .xls format/,
    ],
    ['another archive', () => zipSync({ 'hello.txt': new TextEncoder().encode('hello') }), /not an .xlsx workbook/],
    ['cut short', () => write({}).slice(0, 900), /damaged/],
    [
      'not what it says inside',
      () => zipSync({ 'xl/workbook.xml': new TextEncoder().encode('<a>'), '[Content_Types].xml': new TextEncoder().encode('<b') }),
      /cannot be read|Processes is missing/,
    ],
    [
      'of more rows than are read',
      () => write({ Processes: [P, ...Array.from({ length: 60_001 }, (_, i) => [`N-${i}`, 'Name'])] }),
      /60,002 rows; at most 60,000/,
    ],
    ['unpacking to far more than it should, whatever its directory says', writeBomb, /unpacks to more than 150 MB/],
    ['without a sheet', () => write({ Tests: null }), /Sheet Tests is missing/],
    ['with an unknown sheet', () => write({ Extra: [['x']] }), /Sheet “Extra” is not one that is read/],
    ['with an unknown column', () => write({ Processes: [[...P, 'Cost centre']] }), /Processes 1 H: Column “Cost centre” is not known/],
    ['without a column', () => write({ Processes: [['Code', 'Parent']] }), /Column “Name” is missing/],
    ['with a column twice', () => write({ Processes: [['Code', 'Name', 'code']] }), /Column “code” stands twice/],
    ['with an empty code', () => write({ Processes: [P, [null, 'New supply']] }), /Processes 2 Code: Code is empty/],
    ['with a code that is none', () => write({ Processes: [P, ['NS 1', 'New supply']] }), /“NS 1” is not a code/],
    [
      'with a date for a name',
      () => write({ Processes: [P, ['NS', new Date(Date.UTC(2026, 0, 5))]] }),
      /Processes 2 Name: The cell holds a date \(2026-01-05\)/,
    ],
    [
      'with neither yes nor no',
      () => write({ Processes: [P, ['NS', 'New supply', null, null, null, 'perhaps']] }),
      /Critical: “perhaps” should be yes or no/,
    ],
    [
      'with a step that does nothing known',
      () => write({ Tests: [T, test({ Test: 'T-1', Name: 'T', Activity: 'A', Do: 'dance', On: 'Save' })] }),
      /Tests 2 Do: “dance” is not something a step does/,
    ],
    [
      'with a sentence that is none',
      () => write({ Tests: [T, test({ Test: 'T-1', Name: 'T', Activity: 'A', Step: 'Nice weather' })] }),
      /Tests 2 Step: “Nice weather” does not begin with a verb/,
    ],
    [
      'with a step told twice',
      () => write({ Tests: [T, test({ Test: 'T-1', Name: 'T', Activity: 'A', Step: 'Press Save', Do: 'press', On: 'Save' })] }),
      /told twice/,
    ],
    [
      'with minutes that are none',
      () => write({ Tests: [T, test({ Test: 'T-1', Name: 'T', Activity: 'A', Minutes: 0.5, Step: 'Press Save' })] }),
      /Minutes: “0.5” should be a whole number/,
    ],
    ['with a step before any test', () => write({ Tests: [T, test({ Step: 'Press Save' })] }), /Test is empty, and there is none above it/],
    [
      'with a leg that is nothing',
      () => write({ Scenarios: [HEADS['Scenarios'] ?? [], ['S-1', 'S', 'NS', null, null, 'Billing']] }),
      /The leg has no test/,
    ],
    ['with a type that is none', () => write({ Values: [HEADS['Values'] ?? [], ['T-1', 'Band', 'colour']] }), /“colour” is not a type/],
    [
      'with words where no column is',
      () =>
        write({
          Processes: [
            ['Code', 'Name'],
            ['NS', 'New supply', 'left over'],
          ],
        }),
      /“left over” stands in a column without a heading/,
    ],
  ])('%s', async (_, make, sentence) => expect((await problemsOf(make())).join('\n')).toMatch(sentence));

  it('with a formula: told, with the cell', async () => {
    const workbook = XLSX.utils.book_new();
    const sheet = XLSX.utils.aoa_to_sheet([
      ['Code', 'Name'],
      ['NS', 'New supply'],
    ]);
    sheet['B2'] = { t: 's', f: 'CONCATENATE("New"," supply")', v: 'New supply' };
    XLSX.utils.book_append_sheet(workbook, sheet, 'Processes');
    const bytes = new Uint8Array(XLSX.write(workbook, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer);
    expect((await problemsOf(bytes)).join('\n')).toMatch(/Processes 2 Name: The cell holds the formula =CONCATENATE/);
  });
});

describe('a sheet with wrong headings', () => {
  it('is not read on: one problem is told, and not one for each row that follows from it', async () => {
    const rows = [['Code', 'Name', 'Cost centre'], ...Array.from({ length: 5 }, (_, at) => [`bad code ${at}`, null, 'x'])];
    const told = (await problemsOf(write({ Processes: rows }))).filter((line) => line.startsWith('Processes'));
    expect(told).toEqual([expect.stringContaining('Column “Cost centre” is not known')]);
  });
});
