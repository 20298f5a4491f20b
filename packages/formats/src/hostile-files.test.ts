import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { fileURLToPath } from 'node:url';
import { compareMap } from '@kindred-baton/core/imports/compare-map';
import { describe, expect, it } from 'vitest';
import { readMapFile } from './map/read-map-file.ts';
import { readRequirementFile } from './requirements/requirement-files.ts';
import { readScenarioFromFile } from './scenarios/read-scenario-file.ts';
import { readTables } from './tables/read-tables.ts';
import { writeCsv, writeXlsx } from './tables/write-tables.ts';
import { readTestFile } from './tests/read-test-file.ts';
import {
  formatCells,
  LAUGHS,
  merge,
  OUTSIDE,
  writeBomb,
  writeDoublingCalls,
  writeNestedSubprocesses,
  writeOddSheet,
  writeWorkbook,
} from './workbook/hostile-files.test-data.ts';

const require = createRequire(import.meta.url);
const encode = (text: string) => new TextEncoder().encode(text);

interface Reading {
  readonly entries: readonly unknown[];
  readonly problems: readonly { readonly message: string }[];
}
type File = { readonly name: string; readonly bytes: Uint8Array };

/** Every reader of files that people bring. */
const READERS: Readonly<Record<string, (file: File) => Promise<Reading>>> = {
  'process lists': (file) => readMapFile(file, {}),
  requirements: (file) => readRequirementFile(file, {}),
  tests: (file) => readTestFile(file),
  scenarios: async (file) => {
    const reading = await readScenarioFromFile(file);
    return reading.ok ? { entries: reading.file.legs, problems: [] } : { entries: [], problems: [{ message: reading.message }] };
  },
};

const list = writeWorkbook({
  List: [['Code', 'Name', 'Step'], ...Array.from({ length: 40 }, (_, i) => [`C-${i}`, `Name ${i}`, 'Click Save'])],
});
const flip = (bytes: Uint8Array, at: number) => bytes.map((byte, index) => (index === at ? byte ^ 0xff : byte));

const HOSTILE: readonly (readonly [string, string, () => Uint8Array, RegExp])[] = [
  ['empty', 'x.xlsx', () => new Uint8Array(), /empty/],
  ['of blanks only', 'x.csv', () => encode('  \n \n'), /no cells|no rows|says anything/i],
  ['a workbook cut short', 'x.xlsx', () => list.slice(0, list.length / 2), /damaged|cannot be read/],
  ['an archive of something else', 'x.xlsx', () => encode('PK\u0003\u0004 not really'), /damaged|not an .xlsx/],
  ['locked, or of the old format', 'x.xls', () => Uint8Array.from([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1]), /password|old .xls/],
  ['a picture', 'x.csv', () => Uint8Array.from({ length: 3_000 }, (_, i) => (i * 7_919) % 256), /neither a workbook/],
  ['an archive that unpacks to far more', 'x.xlsx', writeBomb, /unpacks to more than 150 MB/],
  [
    'of 1,000 sheets',
    'x.xlsx',
    () =>
      writeWorkbook(
        Object.fromEntries(
          Array.from({ length: 1_000 }, (_, i) => [
            `S${i}`,
            [
              ['Code', 'Name'],
              ['a', 'b'],
            ],
          ]),
        ),
      ),
    /1000 sheets; at most 100/,
  ],
  [
    'with a cell of 10 MB (CSV)',
    'x.csv',
    () => encode(`Code,Name,Step\nC-1,"${'x'.repeat(10_000_000)}",Click Save\n`),
    /more than 100,000 characters|longer than can be read/,
  ],
  ['of too many rows', 'x.xlsx', () => writeWorkbook({ L: Array.from({ length: 60_001 }, (_, i) => [`C-${i}`, 'N']) }), /at most 60,000/],
  ['with a quotation mark that is never closed', 'x.csv', () => encode(`Code,Name\nC-1,"open\n${'C-2,x\n'.repeat(200)}`), /never closed/],
  ['with a merge of C2:ZZ50000', 'x.xlsx', () => writeOddSheet(merge('C2:ZZ50000')), /merged ranges of 34,999,300 cells; at most 100,000/],
  ['with three whole columns merged', 'x.xlsx', () => writeOddSheet(merge('A1:C1048576')), /merged ranges of 3,145,728 cells/],
  [
    'with a row of the number 2,000,000,000',
    'x.xlsx',
    () => writeOddSheet((xml) => xml.replace('<row r="6"', '<row r="2000000000"')),
    /a row of the number 2,000,000,000; no spreadsheet/,
  ],
  ['with empty formatted cells to the last column', 'x.xlsx', () => writeOddSheet(formatCells(150)), /2,400,018 cells, empty ones/],
  ['of a million rows (CSV)', 'x.csv', () => encode(`Code,Name,Step\n${'C-1,N,Click Save\n'.repeat(1_000_000)}`), /more than 60,000 rows/],
  ['with entities that unfold', 'x.xml', () => encode(LAUGHS), /entit|DOCTYPE|document type|cannot be read|never closed|not|no /i],
  ['with an entity from outside', 'x.xml', () => encode(OUTSIDE), /entit|DOCTYPE|document type|cannot be read|never closed|not|no /i],
];

describe.each(Object.entries(READERS))('the reader of %s', { timeout: 90_000 }, (_, read) => {
  it.each(HOSTILE)('says in a sentence what is wrong with a file %s', async (__, name, make, sentence) => {
    const start = performance.now();
    const { entries, problems } = await read({ name, bytes: make() });
    expect(entries).toEqual([]);
    expect(problems.map(({ message }) => message).join('\n')).toMatch(sentence);
    for (const { message } of problems) expect(message.length).toBeLessThan(400);
    // A hostile file must not hold the server: far below what one that unfolds would take.
    expect(performance.now() - start).toBeLessThan(30_000);
  });

  it('never throws, whatever byte of a workbook is another', async () => {
    for (let at = 7; at < list.length; at += 311) {
      const { entries, problems } = await read({ name: 'x.xlsx', bytes: flip(list, at) });
      expect(entries.length + problems.length).toBeGreaterThan(0);
    }
  });

  it('reads nothing of the server into what it answers', async () => {
    const answer = await read({ name: 'x.bpmn', bytes: encode(OUTSIDE) });
    expect(JSON.stringify(answer)).not.toContain('root:');
  });
});

describe('a faithful import', () => {
  it('keeps right-to-left and combining letters, and what looks like a formula, there and back', async () => {
    const rows = [['עברית', 'e\u0301tude', '=1+1', '-10 %', '@here', '+44 20', '\u202eabc', '👩🏽‍🔧']];
    const headings = rows[0]!.map((_, index) => `Column ${index}`);
    for (const bytes of [await writeXlsx([{ sheet: 'S', headings, rows }]), writeCsv({ sheet: 'S', headings, rows })]) {
      const tables = await readTables({ name: 'x', bytes });
      expect(tables.ok && tables.tables[0]?.rows.map(({ cells }) => cells)).toEqual(rows);
    }
  });

  it('writes nothing into CSV that a spreadsheet would take for a formula (OWASP, CSV Injection)', () => {
    const text = new TextDecoder().decode(
      writeCsv({ sheet: 'S', headings: ['A'], rows: [['=cmd()'], ['+1+1'], ['-1+1'], ['@SUM(A1)'], ['\tx'], ['-10.5']] }),
    );
    expect(text.split('\r\n').slice(1, 7)).toEqual(["'=cmd()", "'+1+1", "'-1+1", "'@SUM(A1)", "'\tx", '-10.5']);
  });

  // csv-spectrum 2.0.0: twelve files with the JSON that they say.
  const spectrum = path.dirname(require.resolve('csv-spectrum/package.json'));
  it.each([
    'comma_in_quotes',
    'empty',
    'empty_crlf',
    'escaped_quotes',
    'json',
    'location_coordinates',
    'newlines',
    'newlines_crlf',
    'quotes_and_newlines',
    'simple',
    'simple_crlf',
    'utf8',
  ])('reads csv-spectrum’s %s as it says', async (name) => {
    const expected = JSON.parse(readFileSync(path.join(spectrum, 'json', `${name}.json`), 'utf8')) as
      Record<string, string> | Record<string, string>[];
    const tables = await readTables({ name: `${name}.csv`, bytes: readFileSync(path.join(spectrum, 'csvs', `${name}.csv`)) });
    const [table] = tables.ok ? tables.tables : [];
    // The CSV of location_coordinates has another telephone number than its JSON; all else is compared.
    const trim = (text: string) => text.trim().replace(/^(?:1234567890|2095257564)$/, 'a telephone number');
    const read = table?.rows.map(({ cells }) => Object.fromEntries(table.headings.map((heading, at) => [heading, trim(cells[at] ?? '')])));
    expect(read).toEqual(
      [expected].flat().map((row) => Object.fromEntries(Object.entries(row).map(([key, value]) => [trim(key), trim(value)]))),
    );
  });

  // readxl's own examples (Debian's r-cran-readxl): notes around a table, merged cells, dates; the days as its documentation prints them.
  const readxl = process.env['KINDRED_BATON_READXL'] ?? '/usr/lib/R/site-library/readxl/extdata';
  const readExample = async (name: string) => {
    const tables = await readTables({ name, bytes: readFileSync(path.join(readxl, name)) });
    return tables.ok ? tables.tables : [];
  };

  it('finds a table among the notes around it, with its dates', async () => {
    const [arts] = await readExample('deaths.xlsx');
    expect(arts?.headings).toEqual(['Name', 'Profession', 'Age', 'Has kids', 'Date of birth', 'Date of death']);
    expect(arts?.rows[0]?.cells).toEqual(['David Bowie', 'musician', '69', 'yes', '1947-01-08', '2016-01-10']);
    expect(arts?.rows[9]?.cells.slice(0, 2)).toEqual(['George Michael', 'musician']);
  });

  it('reads dates, truths, numbers and texts as each is meant', async () => {
    const tables = await readExample('type-me.xlsx');
    const firsts = (sheet: string) => tables.find((table) => table.sheet === sheet)?.rows.map(({ cells }) => cells[0]);
    expect(firsts('date_coercion')).toEqual(['', '2016-05-23', '2016-04-28', 'yes', 'cabbage', '4.3', '39448']);
    expect(firsts('text_coercion')).toEqual(['', 'cabbage', 'yes', '1.3', '2016-09-24', '36436153']);
  });

  it('reads dates of workbooks that count from 1904 as the same days', async () => {
    const rows = [
      ['Code', 'Name', 'Since'],
      ['A', 'One', new Date(Date.UTC(1947, 0, 8))],
      ['B', 'Two', new Date(Date.UTC(2016, 0, 10))],
    ];
    for (const isFrom1904 of [false, true]) {
      const tables = await readTables({ name: 'x.xlsx', bytes: writeWorkbook({ S: rows }, { isFrom1904 }) });
      expect([isFrom1904, tables.ok && tables.tables[0]?.rows.map(({ cells }) => cells[2])]).toEqual([
        isFrom1904,
        ['1947-01-08', '2016-01-10'],
      ]);
    }
  });
});

describe('a text that is made to take long', () => {
  it('is told from Gherkin at once, however many tags stand before what is none', async () => {
    for (const text of ['@a'.repeat(2_000), '@a '.repeat(1_300), '@a\n#\n'.repeat(600), ' '.repeat(3_999)]) {
      const start = performance.now();
      await readTestFile({ name: 'x.txt', bytes: encode(`${text}!`) });
      expect(performance.now() - start).toBeLessThan(2_000);
    }
    expect(
      (await readTestFile({ name: 'x.txt', bytes: encode('# about\n@smoke @BIL-01\nFeature: F\n Scenario: S\n  When I press Save\n') }))
        .format,
    ).toBe('Gherkin');
  });

  it('is a diagram that unfolds or nests without end: read as far as is sensible, and said so', async () => {
    const messageOf = async (text: string) => (await readMapFile({ name: 'x.bpmn', bytes: encode(text) }, {})).problems[0]?.message;
    expect(await messageOf(writeDoublingCalls(26))).toMatch(/more than 60,000 processes and tasks, those that are called counted/);
    expect(await messageOf(writeNestedSubprocesses(10_000))).toMatch(/more than 256 deep/);
    expect(await messageOf(writeNestedSubprocesses(200))).toBeUndefined();
    const scenario = await readScenarioFromFile({ name: 'x.bpmn', bytes: encode(writeNestedSubprocesses(10_000)) });
    expect(scenario).toMatchObject({ ok: false, message: expect.stringMatching(/more than 256 deep/) as string });
  });

  it('is no merge that people make: a heading over ten columns and a group of rows stay as they are', async () => {
    const tables = await readTables({ name: 'x.xlsx', bytes: writeOddSheet(merge('A8:J8', 'A2:A4')) });
    expect(tables.ok && tables.tables[0]?.rows.length).toBe(5);
  });
});

/** The bound for the largest files that are taken: 768 MB of heap for reading and comparing one. */
const HEAP_MB = 768;

describe('memory', () => {
  const script = fileURLToPath(new URL('./read-within-bound.test-data.ts', import.meta.url));
  const readWithin = (file: string) =>
    promisify(execFile)(process.execPath, [`--max-old-space-size=${HEAP_MB}`, '--import', 'tsx', script, file]).then(({ stdout }) =>
      stdout.trim(),
    );

  it.each(['workbook of 60,000 rows', 'CSV of 50 MB', 'bomb'])(
    `stays below ${HEAP_MB} MB for a %s`,
    async (file) => {
      expect(await readWithin(file)).toMatch(/^60,000 rows$|unpacks to more than|never closed/);
    },
    120_000,
  );

  it('has that bound where it is told', () => {
    expect(readFileSync(new URL('../../../docs/import.md', import.meta.url), 'utf8')).toContain(`${HEAP_MB} MB`);
  });
});

it('compares the same list again without a difference, whatever stands in it', async () => {
  const bytes = writeCsv({
    sheet: 'S',
    headings: ['Code', 'Name'],
    rows: [
      ['A', '=1+1'],
      ['A.1', 'עברית'],
      ['A.2', 'e\u0301tude'],
    ],
  });
  const { entries } = await readMapFile({ name: 'x.csv', bytes }, {});
  const around = { levels: ['a', 'b'], scheme: ['9', '{parent}.9'], teams: [], applications: [], people: [] };
  const first = compareMap(entries, { ...around, nodes: [] }, { below: null, addsNames: false });
  const nodes = first.differences.map(({ code, name, parent }) => ({
    ...{ code, name, parent, description: '', team: null, application: null, owner: null, isCritical: false, isRetired: false },
  }));
  expect(
    compareMap(entries, { ...around, nodes }, { below: null, addsNames: false }).differences.every(({ kind }) => kind === 'same'),
  ).toBe(true);
});
