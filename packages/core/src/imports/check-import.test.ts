import { describe, expect, it } from 'vitest';
import { checkImport } from './check-import.ts';
import type { ImportDocument, ImportSurroundings } from './import-document.ts';
import { sortParentsFirst } from './sort-parents-first.ts';

const place = (row: number, sheet = 'Processes') => ({ sheet, row });
const node = (row: number, code: string, parent: string | null = null, more = {}) => ({
  place: place(row),
  code,
  name: `Name ${code}`,
  parent,
  team: null,
  application: null,
  isCritical: false,
  description: '',
  ...more,
});
const test = (row: number, code: string, activity: string, more = {}) => ({
  ...{ place: place(row, 'Tests'), code, name: code, activity, team: null, application: null, minutes: 15 },
  steps: [{ place: place(row, 'Tests'), step: { do: 'press' as const, target: 'Save' } }],
  ...more,
});
const EMPTY: ImportDocument = { nodes: [], tests: [], fields: [], scenarios: [], rows: [] };
const AROUND: ImportSurroundings = {
  nodes: [{ code: 'NS', name: 'New supply', parent: null }],
  tests: [],
  scenarios: [],
  teams: ['Billing'],
  applications: [],
  levels: 3,
};
const problemsOf = (document: Partial<ImportDocument>, around = AROUND) =>
  checkImport({ ...EMPTY, ...document }, around).problems.map(
    ({ sheet, row, column, message }) => `${sheet} ${row} ${column ?? ''}: ${message}`,
  );

describe('checking a workbook', () => {
  it('lets a clean one through, with what is new and what is there', () => {
    const check = checkImport(
      { ...EMPTY, nodes: [node(2, 'NS', null, { name: 'New supply' }), node(3, 'NS-9', 'NS')], tests: [test(2, 'T-1', 'NS-9')] },
      AROUND,
    );
    expect(check.problems).toEqual([]);
    expect(check.additions.nodes.map(({ code }) => code)).toEqual(['NS-9']);
    expect(check.alreadyThere).toEqual({ nodes: 1, tests: 0, scenarios: 0 });
  });

  it('names the tests that stay as they are although the workbook has other steps for them', () => {
    const [same, other] = [{ do: 'press', target: 'Save' } as const, { do: 'press', target: 'Send' } as const];
    const around = {
      ...AROUND,
      tests: ['T-1', 'T-2', 'T-3'].map((code) => ({ code, name: code, steps: code === 'T-1' ? [same] : [same, other] })),
    };
    const twice = [same, other].map((step) => ({ place: place(3, 'Tests'), step: { ...step, value: '', target: `${step.target} ` } }));
    const tests = [test(2, 'T-1', 'NS'), test(3, 'T-2', 'NS'), test(4, 'T-3', 'NS', { steps: twice }), test(5, 'T-4', 'NS')];
    const check = checkImport({ ...EMPTY, tests }, around);
    expect(check.otherSteps).toEqual(['T-2']);
    expect(check.additions.tests.map(({ code }) => code)).toEqual(['T-4']);
  });

  it('says where a code stands twice, in the file or in the programme', () => {
    expect(problemsOf({ nodes: [node(2, 'X'), node(3, 'X'), node(4, 'NS')] })).toEqual([
      'Processes 3 : Process X is already in row 2. Give each its own code.',
      'Processes 4 : Process NS is already in the programme as “New supply”. Use another code, or the same name to leave it as it is.',
    ]);
  });

  it('finds unknown parents, circles of parents and nodes too deep', () => {
    const found = problemsOf({
      nodes: [node(2, 'A', 'B'), node(3, 'B', 'A'), node(4, 'C', 'Z'), node(5, 'D', 'NS'), node(6, 'E', 'D'), node(7, 'F', 'E')],
    });
    expect(found).toEqual([
      'Processes 2 Parent: A is its own parent in the end: A › B › A.',
      'Processes 3 Parent: B is its own parent in the end: B › A › B.',
      'Processes 4 Parent: Parent Z of C is not in this file and not on the map.',
      'Processes 7 Parent: F would stand on level 4; this programme has 3 levels.',
    ]);
  });

  it('finds unknown teams, activities and tests', () => {
    const scenario = {
      place: place(2, 'Scenarios'),
      code: 'S-1',
      name: 'S',
      process: 'NOPE',
      legs: [{ place: place(2, 'Scenarios'), test: 'T-9', title: '', team: 'Ghosts' }],
    };
    const found = problemsOf({ tests: [test(2, 'T-1', 'NOPE', { team: 'Ghosts', steps: [] })], scenarios: [scenario] });
    expect(found.join('\n')).toMatch(/Team “Ghosts” is not known. Known: Billing/);
    expect(found.join('\n')).toMatch(/Activity NOPE of test T-1/);
    expect(found.join('\n')).toMatch(/Test T-1 has no steps/);
    expect(found.join('\n')).toMatch(/Scenarios 2 Test: Test T-9 is not in this file and not in the library/);
    expect(found.join('\n')).toMatch(/Process NOPE of scenario S-1/);
  });

  it('checks data rows by the types that the file gives: a date that is a number is told', () => {
    const document = {
      tests: [
        test(2, 'T-1', 'NS', { steps: [{ place: place(2, 'Tests'), step: { do: 'fill' as const, target: 'Day', value: '{Wanted by}' } }] }),
      ],
      fields: [
        { place: place(2, 'Values'), test: 'T-1', field: { name: 'Wanted by', type: 'date' as const } },
        { place: place(3, 'Values'), test: 'T-1', field: { name: 'Unused', type: 'text' as const } },
      ],
      scenarios: [{ place: place(2, 'Scenarios'), code: 'S-1', name: 'S', process: 'NS', legs: [] }],
      rows: [{ place: place(2, 'Data rows'), scenario: 'S-1', name: 'One', values: { 'Wanted by': '46082' } }],
    };
    expect(problemsOf(document)).toEqual([
      'Values 3 Value: No step of test T-1 uses or keeps “Unused”.',
      'Data rows 2 Wanted by: Wanted by should be a date such as 2026-03-31; “46082” is not one.',
    ]);
  });

  it('puts parents before their children, whatever the order of the rows', () => {
    expect(sortParentsFirst([node(2, 'C', 'B'), node(3, 'B', 'A'), node(4, 'A')]).map(({ code }) => code)).toEqual(['A', 'B', 'C']);
  });
});
