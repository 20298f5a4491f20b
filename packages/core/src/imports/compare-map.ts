import { createTaker } from './create-taker.ts';
import { proposeCode } from '../map/code-scheme.ts';
import { pushTo } from '../push-to.ts';
import { toNameKey } from '../values/field.ts';
import type { ImportProblem, Place } from '../tables/place.ts';
import type { MapEntry } from './map-table.ts';

/** A node as it stands on the map, in map order; names of teams and people instead of ids. */
export interface MapNodeState {
  readonly code: string;
  readonly name: string;
  readonly parent: string | null;
  readonly description: string;
  readonly team: string | null;
  readonly application: string | null;
  readonly owner: string | null;
  readonly isCritical: boolean;
  readonly isRetired: boolean;
}

export const MAP_CHANGE_KINDS = ['new', 'changed', 'moved', 'same', 'missing'] as const;
export type MapChangeKind = (typeof MAP_CHANGE_KINDS)[number];

export interface FieldChange {
  readonly field: 'name' | 'description' | 'team' | 'application' | 'owner' | 'critical' | 'retired';
  readonly before: string;
  readonly after: string;
}

/** One line of the comparison. A node that is moved may be changed too; it counts as moved. */
export interface MapDifference {
  readonly kind: MapChangeKind;
  readonly code: string;
  readonly name: string;
  readonly depth: number;
  readonly parent: string | null;
  /** Where it stood before, for a moved one. */
  readonly parentBefore: string | null;
  readonly changes: readonly FieldChange[];
  /** For a new one: what the file says of it. */
  readonly fields: MapEntry['fields'];
  readonly place: Place | null;
}

export interface MapSurroundings {
  readonly nodes: readonly MapNodeState[];
  readonly levels: readonly string[];
  readonly scheme: readonly string[];
  readonly teams: readonly string[];
  readonly applications: readonly string[];
  readonly people: readonly string[];
}

export interface MapComparison {
  /** In the order of the file, what is missing at the end. */
  readonly differences: readonly MapDifference[];
  readonly problems: readonly ImportProblem[];
  /** Teams and applications that the list names and the programme does not have. */
  readonly newTeams: readonly string[];
  readonly newApplications: readonly string[];
}

export interface CompareOptions {
  /** Entries without a parent go below this node; null: at the top. */
  readonly below: string | null;
  /** Teams and applications that are not there yet are added; else each is a problem. */
  readonly addsNames?: boolean | undefined;
}

/**
 * Compares a process list with the map, node by node and field by field. A node is known by its code, or, where the file gives
 * none, by its name below the same parent (siblings of one name in their order); a new one without a code gets the scheme’s next. *Missing* are the nodes below
 * the same place that the file does not have. Cost O(entries + nodes).
 */
export function compareMap(
  entries: readonly MapEntry[],
  around: MapSurroundings,
  { below, addsNames = false }: CompareOptions,
): MapComparison {
  const byCode = new Map(around.nodes.map((node) => [node.code, node]));
  const named = createTaker(around.nodes, ({ parent, name }) => toPathKey(parent, name));
  const taken = new Set([...byCode.keys(), ...entries.flatMap(({ code }) => code ?? [])]);
  const depthOf = new Map<string, number>();
  for (const node of around.nodes) depthOf.set(node.code, node.parent === null ? 0 : (depthOf.get(node.parent) ?? 0) + 1);
  const codes: string[] = [];
  const problems: ImportProblem[] = [];
  const differences = entries.map((entry): MapDifference => {
    const parent = entry.parent >= 0 ? (codes[entry.parent] ?? null) : (entry.outerParent ?? below);
    const depth = parent === null ? 0 : (depthOf.get(parent) ?? 0) + 1;
    const known = entry.code === null ? named(toPathKey(parent, entry.name)) : byCode.get(entry.code);
    const isTaken = (code: string) => taken.has(code);
    const code = known?.code ?? entry.code ?? proposeCode({ scheme: around.scheme, depth, parent, name: entry.name, isTaken });
    taken.add(code);
    codes.push(code);
    depthOf.set(code, depth);
    if (entry.outerParent !== null && !byCode.has(entry.outerParent))
      problems.push({ ...entry.place, message: `Parent ${entry.outerParent} of ${entry.name} is not in this file and not on the map.` });
    problems.push(...checkCode(entry), ...checkDepth(entry, depth, around.levels));
    return toDifference(entry, known, { code, parent, depth });
  });
  const unknown = {
    teams: findUnknown(entries, 'team', around.teams),
    applications: findUnknown(entries, 'application', around.applications),
  };
  if (!addsNames)
    problems.push(
      ...toUnknownProblems(unknown.teams, 'Team', around.teams),
      ...toUnknownProblems(unknown.applications, 'Application', around.applications),
    );
  problems.push(...toUnknownProblems(findUnknown(entries, 'owner', around.people), 'Person', around.people));
  return {
    ...{ differences: [...differences, ...findMissing(differences, around, below, depthOf)], problems },
    newTeams: unknown.teams.map(({ name }) => name),
    newApplications: unknown.applications.map(({ name }) => name),
  };
}

const toPathKey = (parent: string | null, name: string) => `${parent ?? ''}\n${toNameKey(name)}`;

function toDifference(
  entry: MapEntry,
  known: MapNodeState | undefined,
  { code, parent, depth }: { code: string; parent: string | null; depth: number },
): MapDifference {
  const base = { code, name: entry.name, depth, parent, fields: entry.fields, place: entry.place };
  if (!known) return { ...base, kind: 'new', parentBefore: null, changes: [] };
  const changes = compareFields(entry, known);
  const kind = known.parent !== parent ? 'moved' : changes.length > 0 ? 'changed' : 'same';
  return { ...base, kind, parentBefore: known.parent, changes };
}

function compareFields({ name, fields }: MapEntry, known: MapNodeState): FieldChange[] {
  const pairs: readonly (readonly [FieldChange['field'], string, string | undefined])[] = [
    ['name', known.name, name],
    ['description', known.description, fields.description],
    ['team', known.team ?? '', fields.team],
    ['application', known.application ?? '', fields.application],
    ['owner', known.owner ?? '', fields.owner],
    ['critical', toYesNo(known.isCritical), toYesNo(fields.critical)],
    ['retired', toYesNo(known.isRetired), toYesNo(fields.retired)],
  ];
  return pairs.flatMap(([field, before, after]) => {
    if (after === undefined || isSameText(before, after)) return [];
    return [{ field, before, after }];
  });
}

function toYesNo(value: boolean): string;
function toYesNo(value: boolean | undefined): string | undefined;
function toYesNo(value: boolean | undefined): string | undefined {
  return value === undefined ? undefined : value ? 'yes' : 'no';
}

/** Line ends and white space at the ends are not differences: spreadsheets change them by themselves. */
const isSameText = (a: string, b: string) => toPlainText(a) === toPlainText(b);
const toPlainText = (text: string) => text.replace(/\r\n?/g, '\n').trim();

function findMissing(
  differences: readonly MapDifference[],
  around: MapSurroundings,
  below: string | null,
  depthOf: ReadonlyMap<string, number>,
): MapDifference[] {
  const found = new Set(differences.map(({ code }) => code));
  const isInside = new Set<string>();
  return around.nodes.flatMap((node): MapDifference[] => {
    const inside = below === null || node.parent === below || (node.parent !== null && isInside.has(node.parent));
    if (inside) isInside.add(node.code);
    if (!inside || node.isRetired || found.has(node.code)) return [];
    const { code, name, parent } = node;
    const depth = depthOf.get(code) ?? 0;
    return [{ kind: 'missing', code, name, depth, parent, parentBefore: parent, changes: [], fields: {}, place: null }];
  });
}

const CODE = /^[A-Za-z0-9][A-Za-z0-9._-]*$/;

function checkCode({ code, name, place }: MapEntry): ImportProblem[] {
  const problems: ImportProblem[] = [];
  if (code !== null && !CODE.test(code))
    problems.push({
      ...place,
      message: `Code “${code.slice(0, 40)}” has characters that a code cannot have; letters, digits, points, hyphens and underscores can.`,
    });
  if (code !== null && code.length > 40) problems.push({ ...place, message: `Code ${code.slice(0, 20)}… is longer than 40 characters.` });
  if (name.length > 200) problems.push({ ...place, message: `The name “${name.slice(0, 40)}…” is longer than 200 characters.` });
  return problems;
}

function checkDepth({ name, place }: MapEntry, depth: number, levels: readonly string[]): ImportProblem[] {
  if (depth < levels.length) return [];
  return [
    {
      ...place,
      message: `${name} would stand on level ${depth + 1}; this programme has ${levels.length} (${levels.join(' › ')}). Give the programme more levels, or map fewer.`,
    },
  ];
}

interface UnknownName {
  readonly name: string;
  readonly place: Place;
}

/** Each unknown name once, at its first row. */
function findUnknown(entries: readonly MapEntry[], field: 'team' | 'application' | 'owner', known: readonly string[]): UnknownName[] {
  const names = new Set(known.map(toNameKey));
  return entries.flatMap(({ fields, place }) => {
    const name = fields[field] ?? '';
    if (name === '' || names.has(toNameKey(name))) return [];
    names.add(toNameKey(name));
    return [{ name, place }];
  });
}

function toUnknownProblems(unknown: readonly UnknownName[], word: string, known: readonly string[]): ImportProblem[] {
  const like = known.slice(0, 8).join(', ');
  return unknown.map(({ name, place }) => ({ ...place, message: `${word} “${name}” is not in this programme. Known: ${like || 'none'}.` }));
}

/** Differences by the branch that holds them, for the totals over a preview. */
export function countKinds(differences: readonly MapDifference[]): Record<MapChangeKind, number> {
  const byKind = new Map<MapChangeKind, MapDifference[]>();
  for (const difference of differences) pushTo(byKind, difference.kind, difference);
  return Object.fromEntries(MAP_CHANGE_KINDS.map((kind) => [kind, byKind.get(kind)?.length ?? 0])) as Record<MapChangeKind, number>;
}
