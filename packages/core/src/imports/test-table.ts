import type { Priority } from '../values/priority.ts';
import { readPriority } from '../tables/read-priority.ts';
import { findPlainVerb } from '../tests/plain-verbs.ts';
import { readPlainSentence } from '../tests/read-plain-sentence.ts';
import { findAction } from '../tests/step-verbs.ts';
import type { Step } from '../tests/step.ts';
import { normalizeStep } from '../tests/step.ts';
import type { DataRow } from '../tests/version.ts';
import type { Field } from '../values/field.ts';
import type { ColumnKind, ColumnMap } from '../tables/guess-columns.ts';
import { guessColumns } from '../tables/guess-columns.ts';
import type { ImportProblem, Place } from '../tables/place.ts';
import type { TextRow, TextTable } from '../tables/text-table.ts';
import { getPlace } from '../tables/text-table.ts';

/** What a column of a list of tests may say. */
export const TEST_FIELDS = [
  ...(['test', 'name', 'activity', 'team', 'application', 'priority', 'tags', 'minutes'] as const),
  ...(['step', 'target', 'value', 'expect', 'keepAs', 'as'] as const),
] as const;
export type TestField = (typeof TEST_FIELDS)[number];

export const TEST_COLUMNS: readonly ColumnKind<TestField>[] = [
  {
    field: 'expect',
    label: 'Expected',
    says: /^(expected|expected (results?|outcome|behaviou?r)|you should see|expectation|results?|check|verification)$/,
  },
  { field: 'keepAs', label: 'Keep as', says: /^(keep as|keeps?|outputs?|store as|remember as)$/ },
  {
    field: 'step',
    label: 'Step',
    says: /^((test )?(steps?|actions?|procedure|instructions?)|step (action|description|text|details?)|action description|what to do|do)$/,
  },
  { field: 'target', label: 'On', says: /^(on|fields?|elements?|objects?|targets?|controls?)$/ },
  { field: 'value', label: 'With', says: /^(with|values?|inputs?|(test |input )?data|input values?)$/ },
  { field: 'as', label: 'As', says: /^(as|persona|role|performed by|actor)$/ },
  { field: 'activity', label: 'Activity', says: /^((business )?(process|activity|node)( code| step)?|map)$/ },
  { field: 'team', label: 'Team', says: /^(test )?(team|department|unit|group)( name)?$/ },
  { field: 'application', label: 'Application', says: /^(application|system|app|software|module)( name)?$/ },
  { field: 'priority', label: 'Priority', says: /^(priority|prio|importance)$/ },
  { field: 'tags', label: 'Tags', says: /^(tags?|labels?|keywords?)$/ },
  { field: 'minutes', label: 'Minutes', says: /^(minutes|duration|effort|(estimated|planned) (time|minutes|effort)|time)$/ },
  { field: 'test', label: 'Test', says: /^((test|test ?case|tc)( (id|key|code|no|nr|number|ref|reference))?|id|key|code|reference)$/ },
  { field: 'name', label: 'Name', says: /^((test |test ?case )?(name|title|summary|objective)|scenario)$/ },
];

/** How tests are told apart. */
export const TEST_GROUPINGS = ['id', 'cells', 'sheet'] as const;
export type TestGrouping = (typeof TEST_GROUPINGS)[number];

export const TEST_GROUPING_LABELS: Readonly<Record<TestGrouping, string>> = {
  id: 'an id in each row',
  cells: 'a new name, with merged or empty cells below',
  sheet: 'a sheet each',
};

export interface TestMapping {
  readonly grouping: TestGrouping;
  readonly columns: ColumnMap<TestField>;
}

/** What a file says of a test. What it has no column for is absent. */
export interface TestEntry {
  readonly place: Place;
  /** Null when the file gives none. */
  readonly code: string | null;
  readonly name: string;
  readonly activity?: string | undefined;
  readonly team?: string | undefined;
  readonly application?: string | undefined;
  readonly priority?: Priority | undefined;
  readonly tags?: readonly string[] | undefined;
  readonly minutes?: number | undefined;
  readonly steps: readonly Step[];
  readonly rows: readonly DataRow[];
  /** Types of its values, where the file says any. */
  readonly fields?: readonly Field[] | undefined;
  /** How many sentences it has, and how many of them became steps by hand. */
  readonly sentences: number;
  readonly byHand: number;
}

export interface TestReading {
  readonly entries: readonly TestEntry[];
  readonly problems: readonly ImportProblem[];
}

/** A first proposal from the headings and the first rows; the person can map by hand. Cost O(headings + rows). */
export function guessTestMapping(table: TextTable): TestMapping {
  const guessed = guessColumns(table.headings, TEST_COLUMNS);
  const columns = findStepColumn(table, guessed);
  if (columns.test === undefined && columns.name === undefined) return { grouping: 'sheet', columns };
  const at = columns.test ?? columns.name ?? 0;
  const filled = table.rows.filter((row) => (row.cells[at] ?? '') !== '').length;
  return { grouping: filled === table.rows.length && columns.test !== undefined ? 'id' : 'cells', columns };
}

/** “Step” is often the number of the step; the sentences then stand in the column whose cells are longest. */
function findStepColumn(table: TextTable, columns: ColumnMap<TestField>): ColumnMap<TestField> {
  const at = columns.step;
  const isNumber = (column: number) =>
    table.rows.slice(0, 50).every(({ cells }) => /^\s*(?:step\s*)?\d*[.)]?\s*$/i.test(cells[column] ?? ''));
  if (at !== undefined && !isNumber(at)) return columns;
  const taken = new Set(Object.values(columns));
  const free = table.headings.flatMap((_, column) => (taken.has(column) || isNumber(column) ? [] : [column]));
  const length = (column: number) => table.rows.slice(0, 50).reduce((sum, { cells }) => sum + (cells[column] ?? '').length, 0);
  const longest = [...free].sort((a, b) => length(b) - length(a))[0];
  const { step: _, ...others } = columns;
  return longest === undefined ? others : { ...others, step: longest };
}

const CODE = /^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$/;

/** Reads a sheet: one row a step, or one cell a sentence; what stands in no known column is left out. Cost O(rows × columns). */
export function readTestTable(table: TextTable, { grouping, columns }: TestMapping): TestReading {
  const problems: ImportProblem[] = [];
  const groups = groupRows(table, grouping, columns);
  const entries = groups.map((group) => readTest(table, columns, group, problems));
  if (columns.step === undefined && columns.target === undefined)
    problems.push({ sheet: table.sheet, message: 'No column holds the steps; say below which one does.' });
  return { entries, problems };
}

interface RowGroup {
  readonly code: string | null;
  readonly name: string;
  readonly rows: TextRow[];
}

const cellOf = (row: TextRow, column: number | undefined) => (column === undefined ? '' : (row.cells[column] ?? '').trim());
const foldLines = (text: string) => text.replace(/\s+/g, ' ').trim();

function groupRows(table: TextTable, grouping: TestGrouping, columns: ColumnMap<TestField>): RowGroup[] {
  if (grouping === 'sheet') return table.rows.length === 0 ? [] : [{ code: null, name: foldLines(table.sheet), rows: [...table.rows] }];
  const groups: RowGroup[] = [];
  const byId = new Map<string, RowGroup>();
  for (const row of table.rows) {
    const id = foldLines(cellOf(row, columns.test));
    const name = foldLines(cellOf(row, columns.name));
    const last = groups.at(-1);
    const known = id === '' ? undefined : byId.get(id);
    const isNew = id !== '' ? known === undefined : name !== '' && name !== last?.name;
    if (isNew || (!last && !known)) {
      const group = { code: CODE.test(id) ? id : null, name: name || id, rows: [row] };
      groups.push(group);
      if (id !== '') byId.set(id, group);
    } else (known ?? last)?.rows.push(row);
  }
  return groups;
}

function readTest(table: TextTable, columns: ColumnMap<TestField>, group: RowGroup, problems: ImportProblem[]): TestEntry {
  const [first] = group.rows;
  const place = first ? getPlace(table, first) : { sheet: table.sheet };
  const firstFilled = (field: TestField) => group.rows.map((row) => cellOf(row, columns[field])).find((cell) => cell !== '');
  if (group.name === '') problems.push({ ...place, message: 'The test has neither an id nor a name.' });
  const minutes = firstFilled('minutes');
  if (minutes !== undefined && !/^\d{1,4}$/.test(minutes))
    problems.push({ ...place, column: 'Minutes', message: `“${minutes}” should be whole minutes.` });
  const said = firstFilled('priority');
  const priority = said === undefined ? undefined : readPriority(said);
  if (priority === null)
    problems.push({ ...place, column: 'Priority', message: `“${said ?? ''}” is not a priority. Known: high, medium, low.` });
  const steps = group.rows.flatMap((row) => readRow(row, columns));
  return {
    ...{ place, code: group.code, name: group.name, steps: steps.map(({ step }) => step), rows: [] },
    ...{ activity: firstFilled('activity'), team: firstFilled('team'), application: firstFilled('application') },
    priority: priority ?? undefined,
    tags: firstFilled('tags')
      ?.split(/[,;]\s*|\s{2,}/)
      .filter((tag) => tag !== ''),
    minutes: minutes !== undefined && /^\d{1,4}$/.test(minutes) ? Number(minutes) : undefined,
    sentences: steps.length,
    byHand: steps.filter(({ isByHand }) => isByHand).length,
  };
}

interface ReadStep {
  readonly step: Step;
  readonly isByHand: boolean;
}

const toPlaces = (text: string) =>
  text.replace(/\$?\{([^{}]{1,100})\}|<([^<>\s][^<>]{0,99})>/g, (_, a?: string, b?: string) => `{${a ?? b ?? ''}}`);
const splitLines = (text: string) =>
  text
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '');

/** The steps of a row: its cell holds a sentence, or one on each line; the other columns belong to them. */
function readRow(row: TextRow, columns: ColumnMap<TestField>): ReadStep[] {
  const cell = (field: TestField) => cellOf(row, columns[field]);
  const sentences = splitLines(cell('step'));
  const target = cell('target');
  const read = target === '' ? sentences.flatMap(readSentence) : [readCells(sentences.join(' '), target)];
  const rest = { value: toPlaces(cell('value')), keepAs: cell('keepAs'), as: cell('as') };
  const steps = attach(read, rest);
  return expectAfter(steps, splitLines(toPlaces(cell('expect'))), sentences.length);
}

function readSentence(sentence: string): ReadStep[] {
  const { steps, isUnderstood } = readPlainSentence(sentence);
  return steps.map((step) => ({ step, isByHand: !isUnderstood }));
}

const READING_ACTIONS = {
  go: 'go',
  enter: 'fill',
  set: 'fill',
  pick: 'pick',
  tick: 'pick',
  press: 'press',
  see: 'see',
  keep: 'keep',
  wait: 'wait',
} as const;

/** A row with a column for the action and one for the thing. */
function readCells(action: string, target: string): ReadStep {
  const reading = findPlainVerb(action)?.reading;
  const known =
    findAction(action) ??
    (reading !== undefined && Object.hasOwn(READING_ACTIONS, reading)
      ? READING_ACTIONS[reading as keyof typeof READING_ACTIONS]
      : undefined);
  if (known !== undefined) return { step: normalizeStep({ do: known, target: toPlaces(target) }), isByHand: false };
  return { step: normalizeStep({ do: 'hand', target: toPlaces(action === '' ? target : `${action}: ${target}`) }), isByHand: true };
}

/** A value goes to the step that lacks one; one that no step can take is said by hand, so that it is not lost. */
function attach(read: readonly ReadStep[], { value, keepAs, as }: { value: string; keepAs: string; as: string }): ReadStep[] {
  const steps = read.map(({ step, isByHand }) => ({ step: as === '' || step.as !== undefined ? step : { ...step, as }, isByHand }));
  const taker = steps.findIndex(({ step }) => step.value === undefined && (step.do === 'fill' || step.do === 'pick'));
  const any = taker >= 0 ? taker : steps.findIndex(({ step }) => step.value === undefined && step.do !== 'hand');
  const own = steps[any];
  if (value !== '' && own) steps[any] = { ...own, step: { ...own.step, value: foldLines(value) } };
  else if (value !== '') steps.push({ step: { do: 'hand', target: `Use ${foldLines(value)}` }, isByHand: true });
  const last = steps.at(-1);
  if (keepAs !== '' && last) steps[steps.length - 1] = { ...last, step: { ...last.step, keepAs } };
  return steps.map(({ step, isByHand }) => ({ step: normalizeStep(step), isByHand }));
}

/** As many expected results as sentences belong to them one by one; else all of them to the last step. */
function expectAfter(steps: readonly ReadStep[], expected: readonly string[], sentences: number): ReadStep[] {
  if (expected.length === 0) return [...steps];
  const plain = expected.map((line) => line.replace(/^\(?\d{1,3}[.):]\s+/, ''));
  if (steps.length === 0) return plain.flatMap((line) => [{ step: normalizeStep({ do: 'hand', target: line }), isByHand: true }]);
  const add = (step: Step, text: string) =>
    normalizeStep({ ...step, expect: step.expect === undefined ? text : `${step.expect}; ${text}` });
  if (expected.length === sentences && steps.length === sentences)
    return steps.map(({ step, isByHand }, index) => ({ step: add(step, plain[index] ?? ''), isByHand }));
  return steps.map(({ step, isByHand }, index) =>
    index === steps.length - 1 ? { step: add(step, plain.join('; ')), isByHand } : { step, isByHand },
  );
}
