import type { DrawnTest } from '../scenarios/draw-legs.ts';
import { toLegView, toTestKey } from '../scenarios/draw-legs.ts';
import { findFindings } from '../scenarios/findings/rules.ts';
import type { ScenarioDocument } from '../scenarios/scenario-document.ts';
import { createLeg } from '../scenarios/scenario-document.ts';
import type { FileLeg, ScenarioFile, ScenarioNames } from '../scenarios/scenario-file.ts';
import { toScenarioFile } from '../scenarios/scenario-file.ts';
import { wireChain } from '../scenarios/wire-chain.ts';
import type { ImportProblem } from '../tables/place.ts';
import type { Field } from '../values/field.ts';
import { toNameKey } from '../values/field.ts';
import { collectColumns } from './collect-columns.ts';
import type { MapComparison, MapDifference, MapNodeState, MapSurroundings } from './compare-map.ts';
import { compareMap } from './compare-map.ts';
import type { ScenarioFileComparison, ScenarioSurroundings, StoredScenario } from './compare-scenario-file.ts';
import { createScenarioComparer } from './compare-scenario-file.ts';
import type { StoredTest, TestComparison } from './compare-tests.ts';
import { compareTests } from './compare-tests.ts';
import type { ScenarioEntry, WorkbookEntries } from './workbook-entries.ts';

export interface WorkbookSurroundings {
  readonly map: MapSurroundings;
  readonly tests: readonly StoredTest[];
  readonly scenarios: ScenarioSurroundings;
  /** The agreed versions that legs are drawn with, by toTestKey; a test without one is drawn as it would stand then. */
  readonly drawn: ReadonlyMap<string, DrawnTest>;
}

export interface ScenarioDifference extends Pick<ScenarioFileComparison, 'edits' | 'comparison' | 'document'> {
  readonly kind: 'new' | 'changed' | 'same';
  readonly code: string;
  readonly name: string;
  readonly node: string;
  /** Of its head: its name, its place on the map. */
  readonly changes: readonly { readonly field: 'name' | 'process'; readonly before: string; readonly after: string }[];
  /** What the wiring says of it as it would stand then: errors and warnings. */
  readonly findings: readonly string[];
}

export interface WorkbookComparison {
  readonly map: MapComparison;
  readonly tests: TestComparison;
  readonly scenarios: readonly ScenarioDifference[];
  readonly problems: readonly ImportProblem[];
  readonly warnings: readonly string[];
}

/**
 * Compares a workbook with the programme by the three comparisons of all lists: its processes with the map, its tests with the library as it would
 * be on that map, its scenarios with those that are there, with those tests. Cost that of the comparisons.
 */
export function compareWorkbook(entries: WorkbookEntries, around: WorkbookSurroundings): WorkbookComparison {
  const map = compareMap(entries.nodes, around.map, { below: null });
  const nodes = toNodesAfter(map.differences, around.map);
  const { teams, applications } = around.map;
  const standing = nodes.filter(({ isRetired }) => !isRetired);
  const tests = compareTests(entries.tests, { tests: around.tests, nodes: standing, teams, applications }, { activity: null });
  const scenarios = compareScenarioEntries(entries.scenarios, tests, { ...around, nodes });
  return {
    ...{ map, tests, scenarios: scenarios.map(({ difference }) => difference) },
    problems: [...entries.problems, ...map.problems, ...tests.problems, ...scenarios.flatMap(({ problems }) => problems)],
    warnings: [...new Set(scenarios.flatMap(({ warnings }) => warnings))],
  };
}

/** The map as it would be: what is not in the workbook stays. */
function toNodesAfter(differences: readonly MapDifference[], { nodes, teams, applications }: MapSurroundings): MapNodeState[] {
  const byCode = new Map(nodes.map((node) => [node.code, node]));
  const find = (names: readonly string[], name: string) => names.find((each) => toNameKey(each) === toNameKey(name)) ?? null;
  for (const { kind, code, name, parent, fields } of differences) {
    if (kind === 'same' || kind === 'missing') continue;
    const before = byCode.get(code);
    // A new node takes its parent’s team and application.
    const model = before ?? (parent === null ? undefined : byCode.get(parent));
    byCode.set(code, {
      ...{ code, name, parent, description: fields.description ?? before?.description ?? '', owner: before?.owner ?? null },
      team: fields.team === undefined ? (model?.team ?? null) : find(teams, fields.team),
      application: fields.application === undefined ? (model?.application ?? null) : find(applications, fields.application),
      isCritical: fields.critical ?? before?.isCritical ?? false,
      isRetired: fields.retired ?? before?.isRetired ?? false,
    });
  }
  return [...byCode.values()];
}

interface ComparedEntry {
  readonly difference: ScenarioDifference;
  readonly problems: readonly ImportProblem[];
  readonly warnings: readonly string[];
}

function compareScenarioEntries(
  entries: readonly ScenarioEntry[],
  { differences }: TestComparison,
  { scenarios, drawn, tests, nodes }: WorkbookSurroundings & { readonly nodes: readonly MapNodeState[] },
): ComparedEntry[] {
  const after = new Map([...tests, ...differences.map((difference) => difference.after)].map((test) => [test.code, test]));
  const teamOf = new Map(scenarios.teams.map(({ id, name }) => [name, id]));
  const library = [...after.values()].map(({ code, name, team }) => ({ code, name, team: (team && teamOf.get(team)) ?? null }));
  const compare = createScenarioComparer({ ...scenarios, tests: library });
  const codes = new Set(nodes.map(({ code }) => code));
  const findDrawn = createDrawnFinder(drawn, after, teamOf);
  return entries.map((entry) => {
    const known = scenarios.scenarios.get(entry.code);
    const { document, edits, comparison, problems, warnings } = compare(toFile(entry, known, scenarios), entry);
    const changes = known ? describeHead(known, entry) : [];
    const { code, name, node, place } = entry;
    return {
      difference: {
        ...{ code, name, node, document, edits, comparison, changes },
        kind: !known ? 'new' : edits.length > 0 || changes.length > 0 ? 'changed' : 'same',
        findings: findWiring(document, findDrawn),
      },
      problems: [
        ...problems.map(({ leg, message }) => ({ ...(entry.legs[leg]?.place ?? place), column: 'Test', message })),
        ...(codes.has(node) ? [] : [{ ...place, column: 'Process', message: `There is no node ${node} on the map or in this file.` }]),
      ],
      warnings: warnings.map((warning) => `${code}: ${warning}`),
    };
  });
}

function describeHead(known: StoredScenario, { name, node }: ScenarioEntry): ScenarioDifference['changes'] {
  return [
    ...(known.name === name ? [] : [{ field: 'name' as const, before: known.name, after: name }]),
    ...(known.node === node ? [] : [{ field: 'process' as const, before: known.node, after: node }]),
  ];
}

/**
 * A scenario’s file of what the workbook says, filled up by what is there: a leg that is there keeps its wiring, notes and rules, rows and columns
 * that the workbook does not name stay, an empty cell says nothing.
 */
function toFile(entry: ScenarioEntry, known: StoredScenario | undefined, names: ScenarioNames): ScenarioFile {
  const before = known ? toScenarioFile(known.document, { code: entry.code, name: known.name, node: known.node }, names) : null;
  const free = [...(before?.legs ?? [])];
  const legs = entry.legs.map(({ test, title, team }, index): FileLeg => {
    const at = free.findIndex((leg) => (test === null ? leg.test === null && isNamed(leg.title, title) : leg.test === test));
    const [like] = at < 0 ? [] : free.splice(at, 1);
    const { id: key, team: _, ...fresh } = createLeg({ id: `new ${index}` });
    const leg = like ?? { ...fresh, key, lane: null, persona: null };
    return { ...leg, test, title: title === '' ? leg.title : title, lane: team ?? leg.lane };
  });
  return { ...{ code: entry.code, name: entry.name, node: entry.node, legs }, data: toData(entry, before?.data ?? null) };
}

const isNamed = (title: string | null, words: string) => title !== null && toNameKey(title) === toNameKey(words);

function toData({ rows, fields }: ScenarioEntry, before: ScenarioFile['data']): ScenarioFile['data'] {
  if (rows.length === 0) return null;
  const said = new Map(rows.map((row) => [toNameKey(row.name), row]));
  const kept = (before?.rows ?? []).map((row) => {
    const own = said.get(toNameKey(row.name));
    said.delete(toNameKey(row.name));
    return own ? { name: row.name, values: { ...row.values, ...dropEmpty(own.values, before?.columns ?? []) } } : row;
  });
  const columns = new Map((before?.columns ?? []).map((column) => [toNameKey(column.name), column]));
  for (const column of collectColumns(rows, fields)) if (!columns.has(toNameKey(column.name))) columns.set(toNameKey(column.name), column);
  const all = [...columns.values()];
  return { columns: all, rows: [...kept, ...[...said.values()].map(({ name, values }) => ({ name, values: dropEmpty(values, all) }))] };
}

/** Values by the names of the columns that are there; an empty one says nothing. */
function dropEmpty(values: Readonly<Record<string, string>>, columns: readonly Field[]): Record<string, string> {
  const nameOf = new Map(columns.map(({ name }) => [toNameKey(name), name]));
  return Object.fromEntries(
    Object.entries(values).flatMap(([name, value]) => (value === '' ? [] : [[nameOf.get(toNameKey(name)) ?? name, value]])),
  );
}

type DrawnFinder = (leg: ScenarioDocument['legs'][number]) => DrawnTest | undefined;

/** Legs are drawn with what is agreed; a test that the workbook brings, with what it says. */
function createDrawnFinder(
  drawn: ReadonlyMap<string, DrawnTest>,
  after: ReadonlyMap<string, StoredTest>,
  teamOf: ReadonlyMap<string, string>,
): DrawnFinder {
  return (leg) => {
    const known = drawn.get(toTestKey(leg) ?? '');
    const test = leg.test === null ? undefined : after.get(leg.test);
    if (known) return test ? { ...known, name: test.name } : known;
    if (!test) return undefined;
    const { name, team, needs, gives } = test;
    return { ...{ name, needs, gives, place: null, isRetired: false, ownValues: {} }, team: (team && teamOf.get(team)) ?? null };
  };
}

function findWiring({ legs, columns }: ScenarioDocument, findDrawn: DrawnFinder): string[] {
  const views = legs.map((leg) => toLegView(leg, findDrawn(leg)));
  return findFindings({ chain: wireChain(views, columns), isInOpenCycle: false })
    .filter(({ weight }) => weight !== 'note')
    .map(({ message }) => message);
}
