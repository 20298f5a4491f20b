import { createTaker } from './create-taker.ts';
import type { Priority } from '../values/priority.ts';
import { compareVersions } from '../tests/compare-versions.ts';
import type { Step } from '../tests/step.ts';
import type { DataRow } from '../tests/version.ts';
import type { Field } from '../values/field.ts';
import { FIELD_TYPE_LABELS, toNameKey } from '../values/field.ts';
import { isSame } from '../values/is-same.ts';
import type { TestInterface } from '../tests/interface.ts';
import { deriveInterface } from '../tests/interface.ts';
import type { ImportProblem } from '../tables/place.ts';
import type { TestEntry } from './test-table.ts';

/** A test as it stands, in its newest version. */
export interface StoredTest {
  readonly code: string;
  readonly name: string;
  readonly activity: string;
  readonly team: string | null;
  readonly application: string | null;
  readonly priority: Priority;
  readonly tags: readonly string[];
  readonly minutes: number;
  readonly steps: readonly Step[];
  readonly rows: readonly DataRow[];
  readonly needs: readonly Field[];
  readonly gives: readonly Field[];
}

export interface TestDifference {
  readonly kind: 'new' | 'changed' | 'same';
  readonly code: string;
  /** As it would stand then. */
  readonly after: StoredTest;
  /** Whether its steps, values or data rows differ: then a new draft begins. */
  readonly hasNewContent: boolean;
  readonly changes: readonly { readonly field: string; readonly before: string; readonly after: string }[];
  readonly sentences: number;
  readonly byHand: number;
}

export interface TestComparison {
  readonly differences: readonly TestDifference[];
  readonly problems: readonly ImportProblem[];
}

export interface TestSurroundings {
  readonly tests: readonly StoredTest[];
  readonly nodes: readonly {
    readonly code: string;
    readonly name: string;
    readonly team: string | null;
    readonly application: string | null;
  }[];
  readonly teams: readonly string[];
  readonly applications: readonly string[];
}

/**
 * Compares a list of tests with the library, by code, else by name (those of one name in their order); what the list does not say stays. A new test without a code gets
 * the next free one; one without an activity goes to `activity`. Cost O(entries + tests + steps²  of each changed test).
 */
export function compareTests(
  entries: readonly TestEntry[],
  around: TestSurroundings,
  { activity }: { readonly activity: string | null },
): TestComparison {
  const byCode = new Map(around.tests.map((test) => [test.code.toLowerCase(), test]));
  const named = createTaker(around.tests, ({ name }) => toNameKey(name));
  const codes = new Set([
    ...around.tests.map(({ code }) => code.toLowerCase()),
    ...entries.flatMap(({ code }) => (code === null ? [] : [code.toLowerCase()])),
  ]);
  const find = createFinder(around);
  const problems: ImportProblem[] = [];
  const seen = new Set<string>();
  const differences = entries.map((entry) => {
    const known = entry.code === null ? named(toNameKey(entry.name)) : byCode.get(entry.code.toLowerCase());
    const fail = (message: string, column?: string) =>
      problems.push({ ...entry.place, ...(column === undefined ? {} : { column }), message });
    const code = known?.code ?? entry.code ?? takeFreeCode(codes);
    if (seen.has(code)) fail(`Test ${code} stands there twice.`);
    seen.add(code);
    if (entry.steps.length === 0) fail(`${entry.name || code} has no steps.`);
    if (entry.steps.length > MOST_STEPS) fail(`${entry.name || code} has ${entry.steps.length} steps; a test has at most ${MOST_STEPS}.`);
    if (entry.name.length > MOST_NAME) fail(`The name of ${code} has more than ${MOST_NAME} characters.`);
    return compare(entry, { code, known, ...find(entry, known, { activity, fail }) });
  });
  return { differences, problems };
}

const MOST_STEPS = 500;
const MOST_NAME = 200;

function takeFreeCode(codes: Set<string>): string {
  for (let number = 1; ; number += 1) {
    const code = `T-${String(number).padStart(3, '0')}`;
    if (codes.has(code.toLowerCase())) continue;
    codes.add(code.toLowerCase());
    return code;
  }
}

interface Found {
  readonly activity: string;
  readonly team: string | null;
  readonly application: string | null;
}

type Finder = (
  entry: TestEntry,
  known: StoredTest | undefined,
  around: { readonly activity: string | null; readonly fail: (message: string, column?: string) => void },
) => Found;

/** Finds what an entry names: its activity by code or name, its team, its application. */
function createFinder({ nodes, teams, applications }: TestSurroundings): Finder {
  const byCode = new Map(nodes.map((node) => [node.code.toLowerCase(), node]));
  const byName = new Map(nodes.map((node) => [toNameKey(node.name), node]));
  const findName = (names: readonly string[], text: string) => names.find((name) => toNameKey(name) === toNameKey(text));
  return (entry, known, { activity, fail }) => {
    const said = entry.activity ?? known?.activity ?? activity;
    const node = said === null ? undefined : (byCode.get(said.toLowerCase()) ?? byName.get(toNameKey(said)));
    if (said === null) fail(`${entry.name} does not say at which activity it is; choose one above.`, 'Activity');
    else if (!node) fail(`There is no node ${said} on the map.`, 'Activity');
    const pick = (word: 'team' | 'application', names: readonly string[]) => {
      const text = entry[word];
      if (text === undefined) return known ? known[word] : (node?.[word] ?? null);
      const found = findName(names, text);
      if (found === undefined)
        fail(`${word === 'team' ? 'Team' : 'Application'} “${text}” is not in this programme. Known: ${names.join(', ')}.`);
      return found ?? null;
    };
    return { activity: node?.code ?? said ?? '', team: pick('team', teams), application: pick('application', applications) };
  };
}

function compare(entry: TestEntry, { code, known, ...found }: Found & { code: string; known: StoredTest | undefined }): TestDifference {
  const steps = known ? describeSteps(known.steps, entry.steps) : [];
  const after: StoredTest = {
    ...{ code, name: entry.name, ...found },
    priority: entry.priority ?? known?.priority ?? 'medium',
    tags: entry.tags ?? known?.tags ?? [],
    minutes: entry.minutes ?? known?.minutes ?? Math.max(5, entry.steps.length * 2),
    steps: entry.steps,
    rows: entry.rows.length > 0 ? entry.rows : (known?.rows ?? []),
    ...findInterface(entry, known, steps.length === 0),
  };
  const counts = { sentences: entry.sentences, byHand: entry.byHand };
  if (!known) return { kind: 'new', code, after, hasNewContent: true, changes: [], ...counts };
  const content = [...steps, ...describeValues(entry.fields ?? [], known, after), ...describeRows(known.rows, after.rows)];
  const changes = [...describeFields(known, after), ...content];
  return { kind: changes.length > 0 ? 'changed' : 'same', code, after, hasNewContent: content.length > 0, changes, ...counts };
}

/** What it needs and gives then: by its steps, with the types that the list says, else those that were confirmed before. */
function findInterface({ steps, fields = [] }: TestEntry, known: StoredTest | undefined, hasSameSteps: boolean): TestInterface {
  const retype = (list: readonly Field[]): Field[] =>
    list.map((field) => {
      const said = fields.find(({ name }) => toNameKey(name) === toNameKey(field.name));
      return said ? { ...said, name: field.name, required: field.required } : field;
    });
  const { needs, gives } = known && hasSameSteps ? known : deriveInterface(steps, known);
  return { needs: retype(needs), gives: retype(gives) };
}

/** Values that are there and get another type, by the list. */
function describeValues(fields: readonly Field[], before: StoredTest, after: StoredTest): TestDifference['changes'] {
  return fields.flatMap(({ name }) => {
    const find = ({ needs, gives }: StoredTest) => [...needs, ...gives].find((field) => toNameKey(field.name) === toNameKey(name));
    const [was, is] = [find(before), find(after)];
    if (!was || !is || isSame(was, is)) return [];
    return [{ field: `type of ${is.name}`, before: tellType(was), after: tellType(is) }];
  });
}

const tellType = ({ type, choices, pattern, example }: Field): string =>
  [FIELD_TYPE_LABELS[type], choices?.join('; '), pattern, example === undefined ? undefined : `such as ${example}`]
    .filter((part) => part !== undefined && part !== '')
    .join(', ');

function describeFields(before: StoredTest, after: StoredTest): TestDifference['changes'] {
  return (['name', 'activity', 'team', 'application', 'priority', 'tags', 'minutes'] as const).flatMap((field) => {
    const [was, is] = [before[field], after[field]].map((value) =>
      Array.isArray(value) ? [...(value as string[])].sort().join(', ') : String(value ?? ''),
    );
    return was === is ? [] : [{ field, before: was ?? '', after: is ?? '' }];
  });
}

function describeSteps(before: readonly Step[], after: readonly Step[]): TestDifference['changes'] {
  const rows = compareVersions(before, after);
  const parts = (['added', 'removed', 'changed', 'moved'] as const).flatMap((kind) => {
    const count = rows.filter((row) => row.kind === kind).length;
    return count > 0 ? [`${count} ${kind}`] : [];
  });
  return parts.length === 0 ? [] : [{ field: 'steps', before: String(before.length), after: `${after.length} (${parts.join(', ')})` }];
}

function describeRows(before: readonly DataRow[], after: readonly DataRow[]): TestDifference['changes'] {
  const toText = (rows: readonly DataRow[]) =>
    JSON.stringify(rows.map(({ name, as, values }) => [name, as ?? '', Object.entries(values).sort()]));
  return toText(before) === toText(after) ? [] : [{ field: 'data rows', before: String(before.length), after: String(after.length) }];
}
