import { AstBuilder, GherkinClassicTokenMatcher, Parser } from '@cucumber/gherkin';
import type * as messages from '@cucumber/messages';
import { IdGenerator } from '@cucumber/messages';
import type { ImportProblem, Place } from '@kindred-baton/core/tables/place';
import type { TestEntry, TestReading } from '@kindred-baton/core/imports/test-table';
import { readPlainSentence } from '@kindred-baton/core/tests/read-plain-sentence';
import type { Step } from '@kindred-baton/core/tests/step';
import { normalizeStep } from '@kindred-baton/core/tests/step';
import type { DataRow } from '@kindred-baton/core/tests/version';
import { toNameKey } from '@kindred-baton/core/values/field';

export const ROW_COLUMN = 'Data row';
export const PERSONA_COLUMN = 'As';
const CODE_TAG = /^@([A-Z][A-Z0-9]*(?:[-._][A-Za-z0-9]+)+)$/;

/**
 * Reads Gherkin: each scenario, in rules too, is a test; the steps of its backgrounds stand before its own, the examples of an outline
 * are its data rows, `<name>` is an input. A tag that looks like a code (`@BIL-01`) is the test's. Never throws. Cost O(length).
 */
export function readFeature(text: string, file: string): TestReading {
  const parser = new Parser(new AstBuilder(IdGenerator.incrementing()), new GherkinClassicTokenMatcher());
  try {
    const { feature } = parser.parse(text);
    if (!feature) return { entries: [], problems: [{ sheet: file, message: 'The file has no feature in it.' }] };
    const entries = readChildren(feature.children, { file, background: [], tags: feature.tags.map(({ name }) => name) });
    return { entries, problems: entries.length === 0 ? [{ sheet: file, message: 'The feature has no scenario.' }] : [] };
  } catch (error) {
    return { entries: [], problems: toProblems(error, file) };
  }
}

interface Surroundings {
  readonly file: string;
  readonly background: readonly messages.Step[];
  readonly tags: readonly string[];
}

function readChildren(children: readonly (messages.FeatureChild | messages.RuleChild)[], around: Surroundings): TestEntry[] {
  const background = [...around.background, ...children.flatMap((child) => child.background?.steps ?? [])];
  return children.flatMap((child) => {
    if ('rule' in child && child.rule)
      return readChildren(child.rule.children, {
        ...around,
        background,
        tags: [...around.tags, ...child.rule.tags.map(({ name }) => name)],
      });
    return child.scenario ? [readScenario(child.scenario, { ...around, background })] : [];
  });
}

function readScenario(scenario: messages.Scenario, { file, background, tags: outer }: Surroundings): TestEntry {
  const place: Place = { sheet: file, row: scenario.location.line };
  const rows = scenario.examples.flatMap(readExamples);
  const columns = scenario.examples.flatMap(({ tableHeader }) => tableHeader?.cells.map(({ value }) => value) ?? []);
  const own = scenario.tags.map(({ name }) => name);
  const code = own.map((tag) => CODE_TAG.exec(tag)?.[1]).find((found) => found !== undefined) ?? null;
  const tags = [...new Set([...outer, ...own])].filter((tag) => tag !== `@${code ?? ''}`).map((tag) => tag.slice(1));
  const read = [...background, ...scenario.steps].map((step) => readStep(step, columns));
  return {
    ...{ place, code, name: scenario.name.trim() || `Scenario in line ${scenario.location.line}` },
    tags: tags.length > 0 ? tags : undefined,
    steps: read.flatMap(({ steps }) => steps),
    rows: rows.map((row, index) => ({ ...row, name: row.name || `Row ${index + 1}` })),
    sentences: read.length,
    byHand: read.filter(({ isByHand }) => isByHand).length,
  };
}

function readExamples({ name, tableHeader, tableBody }: messages.Examples): DataRow[] {
  const heads = tableHeader?.cells.map(({ value }) => value) ?? [];
  const isHead = (head: string, word: string) => toNameKey(head) === toNameKey(word);
  return tableBody.map(({ cells }, index) => {
    const entries = cells.map(({ value }, column) => [heads[column] ?? '', value] as const);
    const row = entries.find(([head]) => isHead(head, ROW_COLUMN))?.[1] ?? '';
    const as = entries.find(([head]) => isHead(head, PERSONA_COLUMN))?.[1] ?? '';
    const values = entries.filter(([head, value]) => !isHead(head, ROW_COLUMN) && !isHead(head, PERSONA_COLUMN) && value !== '');
    return { name: row || (name === '' ? '' : `${name} ${index + 1}`), ...(as === '' ? {} : { as }), values: Object.fromEntries(values) };
  });
}

interface ReadStep {
  readonly steps: readonly Step[];
  readonly isByHand: boolean;
}

function readStep({ text, dataTable, docString }: messages.Step, columns: readonly string[]): ReadStep {
  const toPlaces = (said: string) => columns.reduce((all, name) => all.replaceAll(`<${name}>`, `{${name}}`), said);
  const { steps, isUnderstood } = readPlainSentence(toPlaces(text));
  const given = docString ? { value: toPlaces(docString.content) } : {};
  const withText = steps.map((step, index) => (index === 0 && docString ? normalizeStep({ ...step, ...given }) : step));
  if (!dataTable) return { steps: withText, isByHand: !isUnderstood };
  const filled = readDataTable(
    steps,
    dataTable.rows.map(({ cells }) => cells.map(({ value }) => toPlaces(value))),
  );
  if (filled) return { steps: filled, isByHand: false };
  const table = dataTable.rows.map(({ cells }) => cells.map(({ value }) => toPlaces(value)).join(' | ')).join(' / ');
  return { steps: [normalizeStep({ do: 'hand', target: `${toPlaces(text)} ${table}` })], isByHand: true };
}

/**
 * A table below a step that fills something in: two columns are fields with their values, else the first row names the fields of the
 * rows below. Undefined when the step does something else.
 */
function readDataTable(steps: readonly Step[], cells: readonly (readonly string[])[]): Step[] | undefined {
  const [step] = steps;
  if (steps.length !== 1 || !step || (step.do !== 'fill' && step.do !== 'see')) return undefined;
  const [heads = [], ...rows] = cells;
  const toStep = (target: string, value: string): Step => normalizeStep({ do: step.do, target, value, as: step.as });
  if (heads.length === 2)
    return cells.flatMap(([target = '', value = '']) => (target === '' || isHeading(target, value) ? [] : [toStep(target, value)]));
  if (rows.length === 0 || heads.length < 2) return undefined;
  return rows.flatMap((row) =>
    heads.flatMap((head, column) => (head === '' || (row[column] ?? '') === '' ? [] : [toStep(head, row[column] ?? '')])),
  );
}

const isHeading = (target: string, value: string) =>
  /^(field|name|label|input|column)s?$/i.test(target) && /^(value|input|data|text|content)s?$/i.test(value);

/** The parser's own words name the line: `(3:5): expected: …`. */
function toProblems(error: unknown, file: string): ImportProblem[] {
  const errors = (error as { errors?: readonly Error[] }).errors ?? [error as Error];
  return errors.slice(0, 50).map((each) => {
    const found = /^\((\d+):\d+\):\s*(.*)$/s.exec(each.message);
    const said = (found?.[2] ?? each.message).replace(/\s+/g, ' ').slice(0, 200);
    return { sheet: file, ...(found?.[1] === undefined ? {} : { row: Number(found[1]) }), message: `This is not Gherkin: ${said}.` };
  });
}
