import { pushTo } from '../push-to.ts';
import type { ScenarioFile } from '../scenarios/scenario-file.ts';
import type { ImportProblem, Place } from '../tables/place.ts';
import { deriveInterface } from '../tests/interface.ts';
import { checkCell } from '../scenarios/check-cells.ts';
import type { Field } from '../values/field.ts';
import { toNameKey } from '../values/field.ts';
import { arrangeEntries } from './arrange-entries.ts';
import type { MapEntry } from './map-table.ts';
import type { TestEntry } from './test-table.ts';
import type { ImportedField, ImportedNode, ImportedRow, ImportedScenario, ImportedTest, WorkbookSheets } from './workbook-sheets.ts';

/** What a workbook says of a scenario. What it has no cell for stays as it is. */
export interface ScenarioEntry {
  readonly place: Place;
  readonly code: string;
  readonly name: string;
  readonly node: string;
  readonly legs: readonly { readonly place: Place; readonly test: string | null; readonly title: string; readonly team: string | null }[];
  readonly rows: NonNullable<ScenarioFile['data']>['rows'];
  /** Types of values, as the workbook gives them. */
  readonly fields: readonly Field[];
}

export interface WorkbookEntries {
  readonly nodes: readonly MapEntry[];
  readonly tests: readonly TestEntry[];
  readonly scenarios: readonly ScenarioEntry[];
  /** What does not fit together within the workbook. */
  readonly problems: readonly ImportProblem[];
}

/** Makes of a workbook's sheets the entries that all lists are compared by. Cost O(rows). */
export function toWorkbookEntries(sheets: WorkbookSheets): WorkbookEntries {
  const nodes = takeEachOnce('Process', sheets.nodes);
  const tests = takeEachOnce('Test', sheets.tests);
  const scenarios = takeEachOnce('Scenario', sheets.scenarios);
  const map = toMapEntries(nodes.taken);
  const { fieldsOf, problems } = assignFields(sheets);
  const rowsOf = new Map<string, ImportedRow[]>();
  for (const row of sheets.rows) pushTo(rowsOf, row.scenario, row);
  const typed = sheets.fields.map(({ field }) => field);
  return {
    nodes: map.entries,
    tests: tests.taken.map((test) => toTestEntry(test, fieldsOf.get(test.code))),
    scenarios: scenarios.taken.map((scenario) => toScenarioEntry(scenario, rowsOf.get(scenario.code) ?? [], typed)),
    problems: [...nodes.problems, ...map.problems, ...tests.problems, ...problems, ...scenarios.problems, ...checkRows(sheets)],
  };
}

interface Coded {
  readonly place: Place;
  readonly code: string;
}

/** A code stands once; the first is taken. */
function takeEachOnce<Row extends Coded>(word: string, rows: readonly Row[]): { taken: Row[]; problems: ImportProblem[] } {
  const first = new Map<string, Row>();
  const problems: ImportProblem[] = [];
  for (const row of rows) {
    const other = first.get(row.code);
    if (other)
      problems.push({ ...row.place, message: `${word} ${row.code} is already in row ${other.place.row}. Give each its own code.` });
    else first.set(row.code, row);
  }
  return { taken: [...first.values()], problems };
}

function toMapEntries(nodes: readonly ImportedNode[]): { entries: MapEntry[]; problems: ImportProblem[] } {
  const { arranged, circles } = arrangeEntries(nodes);
  return {
    entries: arranged.map(({ item: { place, code, name, ...said }, parent, outerParent }) => ({
      ...{ place, code, name, parent, outerParent },
      fields: {
        ...(said.description === null ? {} : { description: said.description }),
        ...(said.team === null ? {} : { team: said.team }),
        ...(said.application === null ? {} : { application: said.application }),
        ...(said.isCritical === null ? {} : { critical: said.isCritical }),
      },
    })),
    problems: circles.map(({ place, code }) => ({
      ...{ ...place, column: 'Parent' },
      message: `${code} is its own parent in the end; one of its parents has to be another.`,
    })),
  };
}

function toTestEntry({ place, code, name, activity, steps, ...said }: ImportedTest, fields: readonly Field[] | undefined): TestEntry {
  return {
    ...{ place, code, name, activity, fields, steps: steps.map(({ step }) => step), rows: [], sentences: steps.length, byHand: 0 },
    ...{ team: said.team ?? undefined, application: said.application ?? undefined, minutes: said.minutes ?? undefined },
  };
}

function toScenarioEntry(
  { place, code, name, process, legs }: ImportedScenario,
  rows: readonly ImportedRow[],
  fields: readonly Field[],
): ScenarioEntry {
  return { ...{ place, code, name, node: process, legs, fields }, rows: rows.map(({ name: row, values }) => ({ name: row, values })) };
}

/** Types are given for tests of the workbook, for values that these really need or give. */
function assignFields({ tests, fields }: WorkbookSheets): { fieldsOf: Map<string, Field[]>; problems: ImportProblem[] } {
  const names = new Map(tests.map((test) => [test.code, listNames(test)]));
  const fieldsOf = new Map<string, Field[]>();
  const problems: ImportProblem[] = [];
  for (const { place, test, field } of fields) {
    const known = names.get(test);
    if (!known) problems.push({ ...place, column: 'Test', message: `Test ${test} is not in this file.` });
    else if (!known.has(toNameKey(field.name)))
      problems.push({ ...place, column: 'Value', message: `No step of test ${test} uses or keeps “${field.name}”.` });
    else pushTo(fieldsOf, test, field);
  }
  return { fieldsOf, problems };
}

function listNames(test: ImportedTest): Set<string> {
  const { needs, gives } = deriveInterface(test.steps.map(({ step }) => step));
  return new Set([...needs, ...gives].map(({ name }) => toNameKey(name)));
}

/** Data rows belong to scenarios of the workbook, each under a name of its own; values must fit the types that the workbook gives. */
function checkRows({ fields, scenarios, rows }: WorkbookSheets): ImportProblem[] {
  const fieldOf = new Map(fields.map(({ field }: ImportedField) => [toNameKey(field.name), field]));
  const codes = new Set(scenarios.map(({ code }) => code));
  const seen = new Set<string>();
  return rows.flatMap(({ place, scenario, name, values }) => {
    const problems: ImportProblem[] = [];
    if (!codes.has(scenario)) problems.push({ ...place, column: 'Scenario', message: `Scenario ${scenario} is not in this file.` });
    const key = `${scenario}\u0000${toNameKey(name)}`;
    if (seen.has(key)) problems.push({ ...place, column: 'Row', message: `Scenario ${scenario} has a data row “${name}” already.` });
    seen.add(key);
    return [...problems, ...checkRowValues(values, fieldOf).map((problem) => ({ ...place, ...problem }))];
  });
}

function checkRowValues(
  values: Readonly<Record<string, string>>,
  fieldOf: ReadonlyMap<string, Field>,
): { column: string; message: string }[] {
  return Object.entries(values).flatMap(([column, value]) => {
    const field = fieldOf.get(toNameKey(column));
    if (!field) return [];
    const check = checkCell(field, value, null);
    return check.ok ? [] : [{ column, message: check.message }];
  });
}
