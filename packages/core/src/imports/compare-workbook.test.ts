import { describe, expect, it } from 'vitest';
import type { StoredScenario } from './compare-scenario-file.ts';
import type { StoredTest } from './compare-tests.ts';
import type { WorkbookSurroundings } from './compare-workbook.ts';
import { compareWorkbook } from './compare-workbook.ts';
import { toWorkbookEntries } from './workbook-entries.ts';
import type { ImportedNode, ImportedScenario, ImportedTest, WorkbookSheets } from './workbook-sheets.ts';
import { DEFAULT_CODE_SCHEME } from '../map/code-scheme.ts';
import { createLeg } from '../scenarios/scenario-document.ts';
import { toTestKey } from '../scenarios/draw-legs.ts';
import type { Step } from '../tests/step.ts';

const place = (row: number, sheet = 'Processes') => ({ sheet, row });
const node = (row: number, code: string, parent: string | null = null, more: Partial<ImportedNode> = {}): ImportedNode => ({
  ...{ place: place(row), code, name: `Name ${code}`, parent, team: null, application: null, isCritical: null, description: null },
  ...more,
});
const SAVE: Step = { do: 'press', target: 'Save' };
const test = (row: number, code: string, activity: string, more: Partial<ImportedTest> = {}): ImportedTest => ({
  ...{ place: place(row, 'Tests'), code, name: code, activity, team: null, application: null, minutes: null },
  steps: [{ place: place(row, 'Tests'), step: SAVE }],
  ...more,
});
const steps = (...list: Step[]) => list.map((step) => ({ place: place(2, 'Tests'), step }));
const scenario = (code: string, tests: readonly (string | null)[], more: Partial<ImportedScenario> = {}): ImportedScenario => ({
  ...{ place: place(2, 'Scenarios'), code, name: code, process: 'NS' },
  legs: tests.map((code, index) => ({
    ...{ place: place(2 + index, 'Scenarios'), test: code, title: code === null ? `Open ${index}` : '', team: null },
  })),
  ...more,
});
const EMPTY: WorkbookSheets = { nodes: [], tests: [], fields: [], scenarios: [], rows: [] };
const NODE = {
  ...{ code: 'NS', name: 'New supply', parent: null, description: 'As it is', team: 'Billing', application: null },
  ...{ owner: 'Greta Holm', isCritical: true, isRetired: false },
};
const TEST: StoredTest = {
  ...{ code: 'T-1', name: 'T-1', activity: 'NS', team: 'Billing', application: null, priority: 'high', tags: ['smoke'], minutes: 12 },
  ...{ steps: [SAVE], rows: [], needs: [], gives: [] },
};
const AROUND: WorkbookSurroundings = {
  map: {
    ...{ nodes: [NODE], levels: ['Stream', 'Process', 'Activity'], scheme: DEFAULT_CODE_SCHEME, teams: ['Billing', 'Stores'] },
    ...{ applications: [], people: [] },
  },
  tests: [TEST],
  scenarios: {
    teams: [
      { id: 'team-b', name: 'Billing' },
      { id: 'team-s', name: 'Stores' },
    ],
    ...{ personas: [], tests: [], scenarios: new Map(), createId: () => crypto.randomUUID() },
  },
  drawn: new Map(),
};
const compare = (sheets: Partial<WorkbookSheets>, around = AROUND) => compareWorkbook(toWorkbookEntries({ ...EMPTY, ...sheets }), around);
const problemsOf = (sheets: Partial<WorkbookSheets>, around = AROUND) =>
  compare(sheets, around).problems.map(({ sheet, row, column, message }) => `${sheet} ${row} ${column ?? ''}: ${message}`);
const withScenario = (known: StoredScenario, code = 'S-1'): WorkbookSurroundings => ({
  ...AROUND,
  scenarios: { ...AROUND.scenarios, scenarios: new Map([[code, known]]) },
});

describe('a workbook beside the programme', () => {
  it('says what is new and what is there; an empty cell says nothing of it', () => {
    const { map, tests, problems } = compare({
      nodes: [node(2, 'NS', null, { name: 'New supply' }), node(3, 'NS-9', 'NS')],
      tests: [test(2, 'T-1', 'NS'), test(3, 'T-2', 'NS-9')],
    });
    expect(problems).toEqual([]);
    expect(map.differences.map(({ kind, code }) => [kind, code])).toEqual([
      ['same', 'NS'],
      ['new', 'NS-9'],
    ]);
    expect(tests.differences.map(({ kind, after }) => [kind, after.code, after.team, after.minutes, after.priority])).toEqual([
      ['same', 'T-1', 'Billing', 12, 'high'],
      ['new', 'T-2', 'Billing', 5, 'medium'],
    ]);
  });

  it('shows each change of what is there: names, places, minutes, teams, steps, types', () => {
    const known: StoredTest = {
      ...TEST,
      steps: [{ do: 'fill', target: 'No.', value: '{Quote}' }],
      needs: [{ name: 'Quote', type: 'text' }],
    };
    const { map, tests } = compare(
      {
        nodes: [node(2, 'NS', null, { name: 'Supply', isCritical: false, team: 'stores' }), node(3, 'NS-1', 'NS')],
        tests: [test(2, 'T-1', 'NS-1', { name: 'Other', minutes: 3, steps: steps({ do: 'fill', target: 'No.', value: '{Quote}' }, SAVE) })],
        fields: [{ place: place(2, 'Values'), test: 'T-1', field: { name: 'quote', type: 'code', pattern: 'Q-99', required: true } }],
      },
      { ...AROUND, tests: [known] },
    );
    expect(map.differences[0]?.changes).toEqual([
      { field: 'name', before: 'New supply', after: 'Supply' },
      { field: 'team', before: 'Billing', after: 'stores' },
      { field: 'critical', before: 'yes', after: 'no' },
    ]);
    expect(tests.differences[0]?.changes).toEqual([
      { field: 'name', before: 'T-1', after: 'Other' },
      { field: 'activity', before: 'NS', after: 'NS-1' },
      { field: 'minutes', before: '12', after: '3' },
      { field: 'steps', before: '1', after: '2 (1 added)' },
      { field: 'type of Quote', before: 'text', after: 'code, Q-99' },
    ]);
    expect(tests.differences[0]).toMatchObject({
      kind: 'changed',
      hasNewContent: true,
      after: { needs: [{ name: 'Quote', type: 'code', pattern: 'Q-99' }], tags: ['smoke'] },
    });
  });

  it('a type alone begins a new draft too, and keeps what the author confirmed besides', () => {
    const needs = [
      { name: 'Quote', type: 'text' as const, required: false },
      { name: 'Confirmed by hand', type: 'date' as const },
    ];
    const known: StoredTest = { ...TEST, steps: [{ do: 'fill', target: 'No.', value: '{Quote}' }], needs };
    const sheets = {
      tests: [test(2, 'T-1', 'NS', { steps: steps(...known.steps) })],
      fields: [{ place: place(2, 'Values'), test: 'T-1', field: { name: 'Quote', type: 'code' as const, required: true } }],
    };
    const [difference] = compare(sheets, { ...AROUND, tests: [known] }).tests.differences;
    expect(difference).toMatchObject({ kind: 'changed', hasNewContent: true });
    expect(difference?.after.needs).toEqual([{ name: 'Quote', type: 'code', required: false }, needs[1]]);
    const again = compare(sheets, { ...AROUND, tests: [{ ...known, needs: difference?.after.needs ?? [] }] });
    expect(again.tests.differences[0]?.kind).toBe('same');
  });

  it('tests take the team of their activity as it would be after the map’s changes', () => {
    const { tests } = compare({
      nodes: [node(2, 'NS', null, { name: 'New supply', team: 'STORES' }), node(3, 'NS-1', 'NS'), node(4, 'QQ', null, { team: 'Billing' })],
      tests: ['NS', 'NS-1', 'QQ'].map((activity, index) => test(2 + index, `N-${index}`, activity)),
    });
    expect(tests.differences.map(({ after }) => after.team)).toEqual(['Stores', 'Stores', 'Billing']);
  });
});

describe('scenarios of a workbook', () => {
  it('are new: legs in order, open ones in words, columns from their rows; the wiring is told as it would be', () => {
    const give: Step = { do: 'keep', target: 'No.', keepAs: 'Quote' };
    const take: Step = { do: 'fill', target: 'No.', value: '{Quote}' };
    const sheets = {
      tests: [test(2, 'T-2', 'NS', { steps: steps(give) }), test(3, 'T-3', 'NS', { steps: steps(take) })],
      rows: [{ place: place(2, 'Data rows'), scenario: 'S-1', name: 'One', values: { Street: 'Mill Lane', Empty: '' } }],
    };
    const [first] = compare({ ...sheets, scenarios: [scenario('S-1', ['T-2', 'T-3', null])] }).scenarios;
    expect(first).toMatchObject({ kind: 'new', code: 'S-1', node: 'NS', changes: [], findings: [] });
    expect(first?.document.legs.map(({ test: code, title }) => [code, title])).toEqual([
      ['T-2', null],
      ['T-3', null],
      [null, 'Open 2'],
    ]);
    expect(first?.document).toMatchObject({ columns: [{ name: 'Street' }], rows: [{ name: 'One', values: { Street: 'Mill Lane' } }] });
    const [turned] = compare({ ...sheets, scenarios: [scenario('S-1', ['T-3', 'T-2'])] }).scenarios;
    expect(turned?.findings.join(' ')).toMatch(/leg 2, T-2/);
  });

  it('are there: a leg keeps its wiring, notes and rules, what the file does not name of the data stays, and each change is told', () => {
    const legs = [
      createLeg({ id: 'leg-a', test: 'T-1', note: 'Ask first', waitDays: 3, team: 'team-s' }),
      createLeg({ id: 'leg-b', title: 'Thank them', after: ['leg-a'] }),
      createLeg({ id: 'leg-c', test: 'T-9' }),
    ];
    const document = {
      ...{ legs, classes: null, columns: [{ name: 'Street', type: 'text' as const }] },
      rows: [
        { id: 'row-1', name: 'One', values: { Street: 'Quay' } },
        { id: 'row-2', name: 'Two', values: { Street: 'Hill' } },
      ],
    };
    const around = { ...withScenario({ name: 'Was', node: 'NS', document }), tests: [TEST, { ...TEST, code: 'T-9' }] };
    const same = compare({ scenarios: [scenario('S-1', ['T-1', null, 'T-9'], { name: 'Was' })] }, around);
    expect(same.scenarios[0]?.kind).toBe('changed');
    const sheets = (titles: readonly string[]) => ({
      scenarios: [
        scenario('S-1', ['T-1', null, 'T-9'], {
          name: 'Was',
          legs: ['T-1', null, 'T-9'].map((code, index) => ({
            ...{ place: place(2 + index, 'Scenarios'), test: code, title: titles[index] ?? '', team: null },
          })),
        }),
      ],
    });
    expect(compare(sheets(['', 'thank  them', '']), around).scenarios[0]).toMatchObject({
      ...{ kind: 'changed', edits: [{ kind: 'change leg', leg: 'leg-b' }] },
    });
    expect(compare(sheets(['', 'Thank them', '']), around).scenarios[0]).toMatchObject({ kind: 'same', edits: [] });
    const { scenarios: changed } = compare(
      {
        nodes: [node(2, 'QQ')],
        scenarios: [scenario('S-1', ['T-1'], { name: 'Is', process: 'QQ' })],
        rows: [
          { place: place(2, 'Data rows'), scenario: 'S-1', name: 'one', values: { STREET: 'Mill', Lamp: '' } },
          { place: place(3, 'Data rows'), scenario: 'S-1', name: 'Three', values: { Lamp: 'L-1' } },
        ],
      },
      around,
    );
    expect(changed[0]?.changes).toEqual([
      { field: 'name', before: 'Was', after: 'Is' },
      { field: 'process', before: 'NS', after: 'QQ' },
    ]);
    expect(changed[0]?.document.legs).toEqual([legs[0]]);
    expect(changed[0]?.comparison.legs.map(({ kind }) => kind)).toEqual(['same', 'removed', 'removed']);
    expect(changed[0]?.comparison.data).toEqual(['Column Lamp is new.', 'Row “Three” is new.', 'Row “One”, Street: Quay → Mill.']);
    expect(changed[0]?.document.rows.map(({ name, values }) => [name, values])).toEqual([
      ['One', { Street: 'Mill' }],
      ['Two', { Street: 'Hill' }],
      ['Three', { Lamp: 'L-1' }],
    ]);
  });

  it('are wired with what is agreed of a test that is there, not with the draft that the file would begin', () => {
    const take: Step = { do: 'fill', target: 'No.', value: '{Quote}' };
    const sheets = { tests: [test(2, 'T-1', 'NS', { steps: steps(take) })], scenarios: [scenario('S-1', ['T-1'])] };
    const agreed = { name: 'T-1', team: null, needs: [], gives: [], ownValues: {}, place: null, isRetired: false };
    const key = toTestKey({ test: 'T-1', version: null }) ?? '';
    expect(compare(sheets, { ...AROUND, drawn: new Map([[key, agreed]]) }).scenarios[0]?.findings).toEqual([]);
    expect(compare(sheets).scenarios[0]?.findings.join(' ')).toMatch(/Leg 1 needs Quote/);
  });
});

describe('what is wrong in a workbook is told with its place', () => {
  it('a code that stands twice', () => {
    expect(
      problemsOf({
        nodes: [node(2, 'X'), node(3, 'X')],
        tests: [test(2, 'T-5', 'X'), test(9, 'T-5', 'X')],
        scenarios: [scenario('S-1', ['T-5']), scenario('S-1', ['T-5'])],
      }),
    ).toEqual([
      'Processes 3 : Process X is already in row 2. Give each its own code.',
      'Tests 9 : Test T-5 is already in row 2. Give each its own code.',
      'Scenarios 2 : Scenario S-1 is already in row 2. Give each its own code.',
    ]);
  });

  it('unknown parents, circles of parents, nodes too deep', () => {
    expect(
      problemsOf({
        nodes: [node(2, 'A', 'B'), node(3, 'B', 'A'), node(4, 'C', 'Z'), node(5, 'D', 'NS'), node(6, 'E', 'D'), node(7, 'F', 'E')],
      }),
    ).toEqual([
      'Processes 2 Parent: A is its own parent in the end; one of its parents has to be another.',
      'Processes 3 Parent: B is its own parent in the end; one of its parents has to be another.',
      'Processes 4 : Parent Z of Name C is not in this file and not on the map.',
      'Processes 7 : Name F would stand on level 4; this programme has 3 (Stream › Process › Activity). Give the programme more levels, or map fewer.',
    ]);
  });

  it('unknown teams, activities, processes and tests, and a test without steps; a lane that is no team is kept in words', () => {
    const sheets = {
      tests: [test(2, 'T-5', 'NOPE', { team: 'Ghosts', steps: [] })],
      scenarios: [
        scenario('S-1', [], { process: 'NOPE', legs: [{ place: place(2, 'Scenarios'), test: 'T-9', title: '', team: 'Ghosts' }] }),
      ],
    };
    expect(problemsOf(sheets)).toEqual([
      'Tests 2 : T-5 has no steps.',
      'Tests 2 Activity: There is no node NOPE on the map.',
      'Tests 2 : Team “Ghosts” is not in this programme. Known: Billing, Stores.',
      'Scenarios 2 Test: Leg 1 names the test T-9, which is not in the library.',
      'Scenarios 2 Process: There is no node NOPE on the map or in this file.',
    ]);
    expect(compare(sheets).warnings).toEqual(['S-1: Ghosts is no team yet; its legs get no lane, and a note.']);
  });

  it('types of what no step uses, data rows of no scenario, rows twice, and values that do not fit their type', () => {
    const row = (number: number, scenarioCode: string, name: string, values = {}) => ({
      ...{ place: place(number, 'Data rows'), scenario: scenarioCode, name, values },
    });
    expect(
      problemsOf({
        tests: [test(2, 'T-5', 'NS', { steps: steps({ do: 'fill', target: 'Day', value: '{Wanted by}' }) })],
        fields: [
          { place: place(2, 'Values'), test: 'T-5', field: { name: 'Wanted by', type: 'date' } },
          { place: place(3, 'Values'), test: 'T-5', field: { name: 'Unused', type: 'text' } },
          { place: place(4, 'Values'), test: 'T-6', field: { name: 'Unused', type: 'text' } },
        ],
        scenarios: [scenario('S-1', ['T-5'])],
        rows: [row(2, 'S-1', 'One', { 'Wanted by': '46082' }), row(3, 'S-1', 'ONE'), row(4, 'S-2', 'One', { 'Wanted by': '' })],
      }),
    ).toEqual([
      'Values 3 Value: No step of test T-5 uses or keeps “Unused”.',
      'Values 4 Test: Test T-6 is not in this file.',
      'Data rows 2 Wanted by: Wanted by should be a date such as 2026-03-31; “46082” is not one.',
      'Data rows 3 Row: Scenario S-1 has a data row “ONE” already.',
      'Data rows 4 Scenario: Scenario S-2 is not in this file.',
    ]);
  });
});
