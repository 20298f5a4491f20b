import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { AstBuilder, GherkinClassicTokenMatcher, Parser } from '@cucumber/gherkin';
import { IdGenerator } from '@cucumber/messages';
import { compareTests } from '@kindred-baton/core/imports/compare-tests';
import type { TestEntry } from '@kindred-baton/core/imports/test-table';
import { printStep } from '@kindred-baton/core/tests/print-step';
import type { Step } from '@kindred-baton/core/tests/step';
import { describe, expect, it } from 'vitest';
import { writeCsv, writeXlsx } from '../tables/write-tables.ts';
import type { ExportedTest } from '@kindred-baton/core/imports/exported-test';
import { readTestFile } from './read-test-file.ts';
import { writeDocument } from './write-document.ts';
import { writeFeature } from './write-feature.ts';
import { writeMarkdown } from './write-markdown.ts';
import { toStepTable, toTestTables } from './write-test-tables.ts';

const require = createRequire(import.meta.url);
const encode = (text: string) => new TextEncoder().encode(text);
const readCsvText = (text: string, options = {}) => readTestFile({ name: 'tests.csv', bytes: encode(text) }, options);
const printed = ({ steps }: Pick<TestEntry, 'steps'>) => steps.map(printStep);

const STEPS: Step[] = [
  { do: 'go', target: 'Quotes', within: 'Millrace Billing' },
  { do: 'fill', target: 'Survey number', value: '{Survey no.}', expect: 'the address of {Survey no.} | "in full"' },
  { do: 'fill', target: '=Discount', value: '-10 %' },
  { do: 'pick', target: 'Band', value: 'B', as: 'accountant', optional: true },
  { do: 'press', target: 'Save', beside: 'Cancel' },
  { do: 'hand', target: 'Ask the "depot" whether the crew is free' },
  { do: 'keep', target: 'Quote number', keepAs: 'Quote no.' },
];
const make = (code: string, more: Partial<ExportedTest> = {}): ExportedTest => ({
  ...{
    code,
    name: `Test ${code}`,
    activity: 'NS-2.1',
    team: 'Billing',
    application: 'Millrace Billing',
    priority: 'high',
    tags: ['smoke'],
  },
  ...{
    minutes: 12,
    steps: STEPS,
    version: 2,
    state: 'agreed',
    address: null,
    path: ['New supply', 'Quote'],
    gives: [{ name: 'Quote no.', type: 'text' }],
  },
  needs: [{ name: 'Survey no.', type: 'text' }],
  rows: [
    { name: 'House', values: { 'Survey no.': 'SV-1' } },
    { name: 'Farm | large', as: 'planner', values: { 'Survey no.': '=SV-2' } },
  ],
  ...more,
});
const LIBRARY = [make('BIL-01'), make('BIL-02', { rows: [], name: 'עברית, “quoted”; and, commas' })];
const around = {
  tests: LIBRARY,
  nodes: [{ code: 'NS-2.1', name: 'Price', team: 'Billing', application: null }],
  teams: ['Billing'],
  applications: ['Millrace Billing'],
};
const kindsOf = (entries: readonly TestEntry[]) =>
  compareTests(entries, around, { activity: null }).differences.map(({ kind, changes }) => [kind, changes]);

describe('writing tests and reading them again is the identity', () => {
  it('as XLSX with data rows', async () => {
    const { entries, problems, dataSheets } = await readTestFile({ name: 'library.xlsx', bytes: await writeXlsx(toTestTables(LIBRARY)) });
    expect([problems, dataSheets]).toEqual([[], ['Data rows']]);
    expect(kindsOf(entries)).toEqual([
      ['same', []],
      ['same', []],
    ]);
  });

  it('as CSV, one row a step', async () => {
    const library = LIBRARY.map((test) => ({ ...test, rows: [] }));
    const { entries } = await readTestFile({ name: 'library.csv', bytes: writeCsv(toStepTable(library)) });
    expect(entries.map((entry) => entry.steps)).toEqual([STEPS, STEPS]);
  });

  it('as Gherkin, which its own parser reads', async () => {
    const text = writeFeature(LIBRARY, 'New supply');
    const { feature } = new Parser(new AstBuilder(IdGenerator.incrementing()), new GherkinClassicTokenMatcher()).parse(text);
    expect(feature?.children.map(({ scenario }) => scenario?.keyword)).toEqual(['Scenario Outline', 'Scenario']);
    const { entries, problems, format } = await readTestFile({ name: 'new.feature', bytes: encode(text) });
    expect([format, problems]).toEqual(['Gherkin', []]);
    expect(entries.map(({ code, steps, rows, tags }) => ({ code, steps, rows, tags }))).toEqual(
      LIBRARY.map(({ code, steps, rows, tags }) => ({ code, steps, rows, tags })),
    );
  });
});

describe('documents', () => {
  it('say everything in Markdown, with no sign of the text taken for markup', () => {
    const text = writeMarkdown([make('BIL-01', { name: 'A *bold* name' })], 'Library');
    expect(text).toContain('## BIL-01 A \\*bold\\* name');
    expect(text).toContain('| 2 | Fill "Survey number" with {Survey no.}. |');
    expect(text).toContain('Farm \\| large');
  });

  it('print with cover, steps, data rows and space to sign, and run no script of the text', () => {
    const html = writeDocument([make('BIL-01', { name: '<script>alert(1)</script>' })], {
      ...{ title: 'Acceptance', programme: 'Brindlemere Water Trust', day: '25 November 2026', paper: 'A4' },
    });
    for (const part of ['@page { size: A4', 'Acceptance', '25 November 2026', 'Data rows', 'Signature', 'Survey number'])
      expect(html).toContain(part);
    expect(html).not.toContain('<script>');
  });
});

describe('lists of tests in ordinary words', () => {
  it('are told apart by an id in each row', async () => {
    const { entries, mapping } = await readCsvText(
      'Test ID,Title,Step No,Action,Test data,Expected result\nA-1,Price,1,Enter the survey number,SV-1,The address is shown\nA-1,Price,2,Click Save,,\nA-2,Pay,1,Open Payments,,\n',
    );
    expect(mapping).toMatchObject({ grouping: 'id' });
    expect(entries.map(({ code, name, steps }) => [code, name, steps.map(printStep)])).toEqual([
      ['A-1', 'Price', ['Fill "Survey number" with "SV-1". You should see: The address is shown', 'Press "Save".']],
      ['A-2', 'Pay', ['Go to "Payments".']],
    ]);
  });

  it('are told apart by merged or empty cells', async () => {
    const { entries, mapping } = await readCsvText(
      'Test case;Steps;Expected\nPrice;Enter the surname;\n;Click Save;Saved\nPay;Open Payments;\n',
    );
    expect(mapping).toMatchObject({ grouping: 'cells' });
    expect(entries.map(({ name, steps }) => [name, steps.length])).toEqual([
      ['Price', 2],
      ['Pay', 1],
    ]);
  });

  it('are told apart by sheet', async () => {
    const sheet = (name: string, ...lines: string[]) => ({
      sheet: name,
      headings: ['No.', 'Step'],
      rows: lines.map((line, index) => [index + 1, line]),
    });
    const bytes = await writeXlsx([sheet('Price', 'Open Quotes', 'Click Save'), sheet('Pay', 'Open Payments')]);
    const { entries, mapping } = await readTestFile({ name: 'tests.xlsx', bytes });
    expect(mapping).toMatchObject({ grouping: 'sheet' });
    expect(entries.map((entry) => [entry.name, printed(entry)])).toEqual([
      ['Price', ['Go to "Quotes".', 'Press "Save".']],
      ['Pay', ['Go to "Payments".']],
    ]);
  });

  it('may have one cell with a sentence on each line, and as many results', async () => {
    const { entries } = await readCsvText('Name,Steps,Expected\nPrice,"1. Enter the surname\n2. Click Save","1. It is there\n2. Saved"\n');
    expect(entries[0] && printed(entries[0])).toEqual([
      'Fill "Surname". You should see: It is there',
      'Press "Save". You should see: Saved',
    ]);
  });

  it('may say the action, the field and the value in columns of their own', async () => {
    const { entries } = await readCsvText('ID,Name,Action,Field,Value\nA,Price,Enter,Surname,<Customer>\nA,Price,Dance,Floor,\n');
    expect(entries[0] && printed(entries[0])).toEqual(['Fill "Surname" with {Customer}.', 'By hand "Dance: Floor".']);
    expect(entries[0]?.byHand).toBe(1);
  });

  it('take data rows from a second file; a field with nothing to enter takes the input of its name', async () => {
    const rows = { name: 'rows.csv', bytes: encode('Test,Data row,Surname,Town\nPrice,House,Orrin,Halden\n,Farm,Vane,\nGone,X,Y,Z\n') };
    const { entries, problems } = await readCsvText('Name,Steps\nPrice,Enter the surname\n', { data: rows });
    expect(entries[0]?.steps[0]).toMatchObject({ target: 'Surname', value: '{Surname}' });
    expect(entries[0]?.rows).toEqual([
      { name: 'House', values: { Surname: 'Orrin', Town: 'Halden' } },
      { name: 'Farm', values: { Surname: 'Vane' } },
    ]);
    expect(problems).toMatchObject([{ sheet: 'rows', row: 4, message: 'There is no test Gone in the file.' }]);
  });

  it('never drop a value or a sentence', async () => {
    const { entries } = await readCsvText('Name,Steps,Test data,Expected\nPrice,Count the boxes,12 boxes,\nPrice,,,All is well\n');
    expect(entries[0] && printed(entries[0])).toEqual(['By hand "Count the boxes".', 'By hand "Use 12 boxes".', 'By hand "All is well".']);
  });

  it('name what is wrong with its place', async () => {
    const { problems } = await readCsvText('Name,Steps,Minutes,Priority\nPrice,Click Save,soon,sky\n');
    expect(problems.map(({ row, column, message }) => [row, column, message])).toEqual([
      [2, 'Minutes', '“soon” should be whole minutes.'],
      [2, 'Priority', '“sky” is not a priority. Known: high, medium, low.'],
    ]);
    expect((await readCsvText('Alpha,Beta\n1,2\n')).problems.map(({ message }) => message)).toContain(
      'No column holds the steps; say below which one does.',
    );
  });
});

describe('Gherkin', () => {
  // @cucumber/compatibility-kit 30.0.0, features/: the suites all-statuses, examples-tables, rules and backgrounds.
  const kit = (suite: string) => {
    const folder = path.join(path.dirname(require.resolve('@cucumber/compatibility-kit/package.json')), 'features', suite);
    return readTestFile({ name: `${suite}.feature`, bytes: readFileSync(path.join(folder, `${suite}.feature`)) });
  };
  /** Scenarios and steps of a suite by its own parser. */
  const count = (suite: string) => {
    const folder = path.join(path.dirname(require.resolve('@cucumber/compatibility-kit/package.json')), 'features', suite);
    const lines = readFileSync(path.join(folder, `${suite}.feature`), 'utf8').split('\n');
    return lines.filter((line) => /^\s*(Scenario|Scenario Outline|Example):/.test(line)).length;
  };

  it.each(['all-statuses', 'examples-tables', 'rules', 'backgrounds'])(
    'of the suite %s is read: a test for each scenario',
    async (suite) => {
      const { entries, problems } = await kit(suite);
      expect(problems).toEqual([]);
      expect(entries).toHaveLength(count(suite));
      expect(entries.every(({ steps }) => steps.length > 0)).toBe(true);
    },
  );

  it('has the examples as data rows, and its places as inputs', async () => {
    const [first] = (await kit('examples-tables')).entries;
    expect(first?.rows.map(({ name, values }) => [name, values])).toEqual([
      ['These are passing 1', { start: '12', eat: '5', left: '7' }],
      ['These are passing 2', { start: '20', eat: '5', left: '15' }],
      ['These are failing 1', { start: '12', eat: '20', left: '0' }],
      ['These are failing 2', { start: '0', eat: '1', left: '0' }],
    ]);
    expect(first && printed(first).join(' ')).toContain('{start}');
  });

  it('has the steps of a background before those of each scenario', async () => {
    const { entries } = await kit('backgrounds');
    const [first, second] = entries.map(printed);
    expect(second?.slice(0, 2)).toEqual(first?.slice(0, 2));
  });

  it('fills in what a data table below a step says', async () => {
    const text =
      'Feature: F\n  @BIL-07 @smoke\n  Scenario: S\n    When I fill in the form\n      | field | value |\n      | Surname | Orrin |\n      | Town | <Town> |\n    And I count\n      | a | b | c |\n      | 1 | 2 | 3 |\n';
    const { entries } = await readTestFile({ name: 'x.feature', bytes: encode(text) });
    expect(entries[0]).toMatchObject({ code: 'BIL-07', tags: ['smoke'] });
    expect(entries[0] && printed(entries[0])).toEqual([
      'Fill "Surname" with "Orrin".',
      'Fill "Town" with "<Town>".',
      'By hand "I count a | b | c / 1 | 2 | 3".',
    ]);
  });

  it.each([
    ['cut short', 'Feature: F\n  Scenario: S\n    Given x\n      """\n      half of it', 6],
    ['with words where none belong', 'Feature: F\n  Scenario: S\n    Given x\n    Bananas\n', 4],
  ])('%s is told with its line', async (_, text, row) => {
    const { entries, problems } = await readTestFile({ name: 'x.feature', bytes: encode(text) });
    expect(entries).toEqual([]);
    expect(problems[0]).toMatchObject({ row });
    expect(problems[0]?.message).toMatch(/^This is not Gherkin: /);
  });
});

describe('a list against the library', () => {
  const compare = (text: string, activity: string | null = 'NS-2.1') =>
    readCsvText(text).then(({ entries }) =>
      compareTests(entries, { ...around, tests: [make('BIL-01', { steps: [{ do: 'press', target: 'Save' }] })] }, { activity }),
    );

  it('tells new, changed and same, and what changes', async () => {
    const { differences, problems } = await compare('Test,Name,Steps\nBIL-01,Test BIL-01,"Click Save\nClick Close"\n,Fresh,Click Save\n');
    expect(problems).toEqual([]);
    expect(differences.map(({ kind, code, changes }) => [kind, code, changes])).toEqual([
      ['changed', 'BIL-01', [{ field: 'steps', before: '1', after: '2 (1 added)' }]],
      ['new', 'T-001', []],
    ]);
  });

  it('finds a test without a code by its name, so that the same list again changes nothing', async () => {
    const { differences } = await compare('Name,Steps\nTest BIL-01,Click Save\n');
    expect(differences.map(({ kind, code }) => [kind, code])).toEqual([['same', 'BIL-01']]);
  });

  it('tells what the programme does not know', async () => {
    const { problems } = await compare('Name,Steps,Activity,Team\nA,Click Save,Nowhere,Nobody\nB,,Price,\n', null);
    expect(problems.map(({ message }) => message)).toEqual([
      'There is no node Nowhere on the map.',
      'Team “Nobody” is not in this programme. Known: Billing.',
      'B has no steps.',
    ]);
    expect((await compare('Name,Steps\nA,Click Save\n', null)).problems.map(({ message }) => message)).toEqual([
      'A does not say at which activity it is; choose one above.',
    ]);
  });
});

describe('the bounds of a list of tests', () => {
  const around = { tests: [], nodes: [{ code: 'NS', name: 'New supply', team: null, application: null }], teams: [], applications: [] };
  const entry = (steps: number, name = 'Long', rows = 0) => ({
    ...{ place: { sheet: 'Tests' }, code: 'T-1', name, activity: 'NS', sentences: steps, byHand: 0 },
    steps: Array.from({ length: steps }, (_, at) => ({ do: 'press' as const, target: `Key ${at}` })),
    rows: Array.from({ length: rows }, (_, at) => ({ name: `Row ${at}`, values: { A: String(at) } })),
  });
  const problemsOf = (one: ReturnType<typeof entry>) =>
    compareTests([one], around, { activity: null }).problems.map(({ message }) => message);

  it('are 500 steps and 200 characters of a name; what is just within them is taken', () => {
    expect([problemsOf(entry(500)), problemsOf(entry(1, 'x'.repeat(200)))]).toEqual([[], []]);
    expect(problemsOf(entry(501))).toEqual(['Long has 501 steps; a test has at most 500.']);
    expect(problemsOf(entry(1, 'x'.repeat(201)))).toEqual(['The name of T-1 has more than 200 characters.']);
  });

  it('one data row is taken in as well as many', () => {
    expect(compareTests([entry(1, 'Short', 1)], around, { activity: null }).differences[0]?.after.rows).toHaveLength(1);
  });
});

describe('codes and names of a list of tests', () => {
  const around = {
    tests: [make('T-001')],
    nodes: [{ code: 'NS', name: 'New supply', team: null, application: null }],
    teams: [],
    applications: [],
  };
  it('a test without a code gets the first that is free', () => {
    const entry = (name: string) => ({
      place: { sheet: 'Tests' },
      code: null,
      name,
      activity: 'NS',
      sentences: 1,
      byHand: 0,
      steps: [{ do: 'press' as const, target: 'Go' }],
      rows: [],
    });
    expect(compareTests([entry('One'), entry('Two')], around, { activity: null }).differences.map(({ code }) => code)).toEqual([
      'T-002',
      'T-003',
    ]);
  });

  it('the table of steps names team and application, or leaves them empty', () => {
    const named = toStepTable([make('A', { team: 'Billing', application: 'Works' })]).rows[0];
    const without = toStepTable([make('A', { team: null, application: null })]).rows[0];
    expect([named?.slice(3, 5), without?.slice(3, 5)]).toEqual([
      ['Billing', 'Works'],
      ['', ''],
    ]);
  });
});
