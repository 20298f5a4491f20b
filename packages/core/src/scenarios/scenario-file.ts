import type { Field } from '../values/field.ts';
import { toNameKey } from '../values/field.ts';
import type { Step } from '../tests/step.ts';
import type { VersionState } from '../tests/version.ts';
import type { Chain, Wire } from './chain.ts';
import type { Finding } from './findings/finding.ts';
import type { LegDocument, ScenarioDocument } from './scenario-document.ts';

/** A leg as a file tells it: everything in words; other legs are named by their keys. */
export interface FileLeg extends Omit<LegDocument, 'id' | 'team' | 'persona'> {
  readonly key: string;
  /** Name of its own lane. */
  readonly lane: string | null;
  /** Name of its persona. */
  readonly persona: string | null;
}

export interface ScenarioFile {
  readonly code: string | null;
  readonly name: string | null;
  /** Code of the node that it belongs to. */
  readonly node: string | null;
  readonly legs: readonly FileLeg[];
  /** null: the file says nothing of data rows, and what is there stays. */
  readonly data: {
    readonly columns: readonly Field[];
    readonly rows: readonly { readonly name: string; readonly values: Readonly<Record<string, string>> }[];
  } | null;
}

/** A leg with what a reader of the file wants to see beside it. */
export interface ExportedLeg {
  readonly title: string;
  readonly lane: string | null;
  readonly needs: readonly Field[];
  readonly gives: readonly Field[];
  readonly test: {
    readonly code: string;
    readonly name: string;
    readonly version: number;
    readonly state: VersionState;
    readonly minutes: number;
    readonly steps: readonly Step[];
  } | null;
}

export interface ExportedScenario {
  readonly file: ScenarioFile & { readonly code: string; readonly name: string };
  readonly path: readonly string[];
  readonly state: string;
  /** In the order of the file’s legs. */
  readonly legs: readonly ExportedLeg[];
  readonly chain: Chain;
  readonly findings: readonly Finding[];
}

export interface ScenarioNames {
  readonly teams: readonly { readonly id: string; readonly name: string }[];
  readonly personas: readonly { readonly id: string; readonly name: string }[];
}

const findName = (list: ScenarioNames['teams'], id: string | null) => list.find((each) => each.id === id)?.name ?? null;

/** A scenario in words; `readScenarioFile` makes the same scenario of it again. */
export function toScenarioFile(
  document: ScenarioDocument,
  head: { readonly code: string; readonly name: string; readonly node: string },
  { teams, personas }: ScenarioNames,
): ExportedScenario['file'] {
  return {
    ...head,
    legs: document.legs.map(({ id, team, persona, ...leg }) => ({
      ...leg,
      key: id,
      lane: findName(teams, team),
      persona: findName(personas, persona),
    })),
    data: { columns: document.columns, rows: document.rows.map(({ name, values }) => ({ name, values })) },
  };
}

export interface FileContext extends ScenarioNames {
  /** Tests of the library by code, with their names. */
  readonly tests: readonly { readonly code: string; readonly name: string }[];
  /** What is there under the file's code; null: nothing. */
  readonly before: ScenarioDocument | null;
  readonly createId: () => string;
}

/** What is wrong with a leg of a file; `leg` counts from 0. */
export interface LegProblem {
  readonly leg: number;
  readonly message: string;
}

export interface FileReading {
  readonly document: ScenarioDocument;
  /** What keeps the file from being taken in. */
  readonly problems: readonly LegProblem[];
  /** What was taken otherwise than it stands in the file. */
  readonly warnings: readonly string[];
}

/**
 * The scenario that a file makes: legs keep the ids of those that are there, known by key, else by test or words in order; lanes, personas and
 * tests are found by their names. What is not found is kept in words and told. Cost O(legs × legs there).
 */
export function readScenarioFile(file: ScenarioFile, context: FileContext): FileReading {
  const problems: LegProblem[] = [];
  const warnings: string[] = [];
  const idOf = matchLegs(file, context);
  const legs = file.legs.map((leg, index) => readLeg(leg, index, { context, idOf, problems, warnings }));
  return { document: { legs, ...readData(file, context) }, problems, warnings: [...new Set(warnings)] };
}

/** Ids by keys: a key that is a leg's id is that leg; another leg of the same test or words is it, in order; the rest are new. */
function matchLegs({ legs }: ScenarioFile, { before, createId }: FileContext): Map<string, string> {
  const free = new Map((before?.legs ?? []).map((leg) => [leg.id, leg]));
  const idOf = new Map<string, string>();
  for (const { key } of legs) {
    if (!free.delete(key)) continue;
    idOf.set(key, key);
  }
  for (const leg of legs) {
    if (idOf.has(leg.key)) continue;
    const same = [...free.values()].find((other) => isLike(leg, other));
    if (same) free.delete(same.id);
    idOf.set(leg.key, same?.id ?? createId());
  }
  return idOf;
}

function isLike(leg: FileLeg, other: LegDocument): boolean {
  if (leg.test !== null) return leg.test === other.test;
  return other.test === null && leg.title !== null && other.title !== null && toNameKey(leg.title) === toNameKey(other.title);
}

interface LegReading {
  readonly context: FileContext;
  readonly idOf: ReadonlyMap<string, string>;
  readonly problems: LegProblem[];
  readonly warnings: string[];
}

function readLeg(leg: FileLeg, index: number, { context, idOf, problems, warnings }: LegReading): LegDocument {
  const number = index + 1;
  const test = findTest(leg, context);
  if (leg.test !== null && test === null)
    problems.push({ leg: index, message: `Leg ${number} names the test ${leg.test}, which is not in the library.` });
  if (leg.test === null && test !== null) warnings.push(`Leg ${number}, ${leg.title}, is taken for the test ${test}, which has that name.`);
  const lane = findNamed(context.teams, leg.lane);
  if (leg.lane !== null && lane === null) warnings.push(`${leg.lane} is no team yet; its legs get no lane, and a note.`);
  const persona = findNamed(context.personas, leg.persona);
  if (leg.persona !== null && persona === null) warnings.push(`${leg.persona} is no persona yet; it is left out.`);
  const toId = (key: string): string[] => {
    const id = idOf.get(key);
    if (id === undefined) warnings.push(`Leg ${number} names a leg that is not in the file; that is left out.`);
    return id === undefined ? [] : [id];
  };
  const laneNote = leg.lane !== null && lane === null && !leg.note.includes(leg.lane) ? `Lane in the file: ${leg.lane}` : '';
  return {
    ...{ id: idOf.get(leg.key) ?? leg.key, test, version: leg.version, team: lane, persona, waitDays: leg.waitDays },
    title: leg.test === null && test !== null ? null : test === null ? (leg.title ?? 'Without words') : leg.title,
    after: leg.after?.flatMap(toId) ?? null,
    wires: leg.wires.flatMap(({ need, from }): Wire[] => {
      if (from.kind !== 'leg') return [{ need, from }];
      return toId(from.leg).map((id) => ({ need, from: { ...from, leg: id } }));
    }),
    samePersonAs: leg.samePersonAs === null ? null : (toId(leg.samePersonAs)[0] ?? null),
    otherPersonThan: leg.otherPersonThan.flatMap(toId),
    note: [leg.note, laneNote].filter((part) => part !== '').join('\n'),
    needs: leg.needs,
    gives: leg.gives,
  };
}

function findNamed(list: ScenarioNames['teams'], name: string | null): string | null {
  return name === null ? null : (list.find((each) => toNameKey(each.name) === toNameKey(name))?.id ?? null);
}

/** A leg without a code is a test's when it has its name, alone or behind its code. */
function findTest({ test, title }: FileLeg, { tests }: FileContext): string | null {
  if (test !== null) return tests.find(({ code }) => code === test)?.code ?? null;
  if (title === null) return null;
  const key = toNameKey(title);
  const found = tests.filter(({ code, name }) =>
    [name, code, `${code} ${name}`, `${name} (${code})`].some((words) => toNameKey(words) === key),
  );
  return found.length === 1 ? (found[0]?.code ?? null) : null;
}

function readData({ data }: ScenarioFile, { before, createId }: FileContext): Omit<ScenarioDocument, 'legs'> {
  const kept = { columns: before?.columns ?? [], rows: before?.rows ?? [], classes: before?.classes ?? null };
  if (data === null) return kept;
  const idOf = new Map(kept.rows.map(({ id, name }) => [toNameKey(name), id]));
  // Of two rows of one name the first is the row that is there, the second a new one.
  const takeId = (key: string) => {
    const id = idOf.get(key);
    idOf.delete(key);
    return id;
  };
  const rows = data.rows.map((row) => ({ ...row, id: takeId(toNameKey(row.name)) ?? createId() }));
  return { ...kept, columns: data.columns, rows };
}
