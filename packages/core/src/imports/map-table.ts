import { arrangeEntries } from './arrange-entries.ts';
import { findCodeParents } from './find-code-parents.ts';
import type { ColumnKind, ColumnMap } from '../tables/guess-columns.ts';
import { guessColumns } from '../tables/guess-columns.ts';
import type { ImportProblem, Place } from '../tables/place.ts';
import type { TextRow, TextTable } from '../tables/text-table.ts';
import { getPlace, toHeadingKey } from '../tables/text-table.ts';

/** What a column of a process list may say. */
export const MAP_FIELDS = ['code', 'name', 'parent', 'description', 'team', 'application', 'owner', 'critical', 'retired'] as const;
export type MapField = (typeof MAP_FIELDS)[number];

export const MAP_COLUMNS: readonly ColumnKind<MapField>[] = [
  { field: 'parent', label: 'Parent', says: /^(parent|above|superior|belongs to|part of|parent (code|id|key|process|node|no|number))$/ },
  {
    field: 'description',
    label: 'Description',
    says: /^(description|descr|details?|notes?|remarks?|comments?|purpose|explanation|definition)$/,
  },
  {
    field: 'team',
    label: 'Team',
    says: /^(test )?(team|department|dept|unit|group|role|responsible( team)?|organi[sz]ation|lane)( name)?$/,
  },
  { field: 'application', label: 'Application', says: /^(application|system|app|software|module|tool)s?( name)?$/ },
  { field: 'owner', label: 'Owner', says: /^((process|business) )?owner( name)?$|^responsible person$/ },
  { field: 'critical', label: 'Critical', says: /^(is )?(business )?critical(ity)?$|^critical for the business$/ },
  { field: 'retired', label: 'Retired', says: /^(is )?(retired|obsolete|inactive)$/ },
  { field: 'code', label: 'Code', says: /^(.* )?(code|id|key|no|nr|number|ref|reference|index|identifier)$/ },
  { field: 'name', label: 'Name', says: /^(.* )?(name|title|label|process|activity|task|function|capability|industry)s?( title)?$/ },
];

/** Where the hierarchy stands: in a parent column, in the codes, in one column a level, or in the indentation. */
export const HIERARCHIES = ['parent', 'codes', 'levels', 'indent'] as const;
export type Hierarchy = (typeof HIERARCHIES)[number];

export const HIERARCHY_LABELS: Readonly<Record<Hierarchy, string>> = {
  parent: 'a parent column',
  codes: 'the codes themselves (1.2 lies in 1)',
  levels: 'one column a level',
  indent: 'indentation',
};

export interface MapMapping {
  readonly hierarchy: Hierarchy;
  readonly columns: ColumnMap<MapField>;
  /** For one column a level: those columns, from the top. */
  readonly levels: readonly number[];
}

/** What a file says of a node. A field that it has no column for is absent: nothing is said, nothing changes. */
export interface MapEntry {
  readonly place: Place;
  /** Null when the file gives none. */
  readonly code: string | null;
  readonly name: string;
  /** The place of its parent among the entries; −1 at the top. A parent stands before its children. */
  readonly parent: number;
  /** A parent that is not in the file, by code. */
  readonly outerParent: string | null;
  readonly fields: Readonly<Partial<Record<'description' | 'team' | 'application' | 'owner', string>>> & {
    readonly critical?: boolean;
    readonly retired?: boolean;
  };
}

export interface MapReading {
  readonly entries: readonly MapEntry[];
  readonly problems: readonly ImportProblem[];
}

const LEVEL_HEADING =
  /^(level|lvl|l|tier|stufe|ebene) ?\d$|^(value stream|stream|end to end|domain|area|process group|process|sub ?process|activity|task)$/;

/** A first proposal from the headings and the first rows; the person can map by hand. Cost O(rows). */
export function guessMapMapping(table: TextTable): MapMapping {
  const keys = table.headings.map(toHeadingKey);
  const levelColumns = keys.flatMap((key, index) => (LEVEL_HEADING.test(key) ? [index] : []));
  const levels = levelColumns.length > 1 ? levelColumns : [];
  const kinds = levels.length > 0 ? MAP_COLUMNS.filter(({ field }) => field !== 'name') : MAP_COLUMNS;
  const columns = guessColumns(
    table.headings.map((heading, index) => (levels.includes(index) ? '' : heading)),
    kinds,
  );
  if (levels.length > 0) return { hierarchy: 'levels', columns, levels };
  const withName = columns.name === undefined ? { ...columns, name: findNameColumn(table, columns) } : columns;
  if (columns.parent !== undefined) return { hierarchy: 'parent', columns: withName, levels };
  const isIndented = table.rows.some(({ indent }) => indent > 0);
  return { hierarchy: columns.code !== undefined && !isIndented ? 'codes' : 'indent', columns: withName, levels };
}

/** Without a heading that says so, the names are in the first column that nothing else is in. */
function findNameColumn(table: TextTable, columns: ColumnMap<MapField>): number {
  const taken = new Set(Object.values(columns));
  const free = table.headings.findIndex((_, index) => !taken.has(index));
  return free < 0 ? 0 : free;
}

/** Reads the rows as nodes; what is wrong is told with its place. Cost O(rows × columns). */
export function readMapTable(table: TextTable, mapping: MapMapping): MapReading {
  switch (mapping.hierarchy) {
    case 'levels':
      return readLevelRows(table, mapping);
    case 'indent':
      return readIndentedRows(table, mapping);
    case 'parent':
      return readParentRows(table, mapping);
    case 'codes':
      return readCodedRows(table, mapping);
  }
}

const YES = /^(y|yes|true|1|x|critical|high|ja|oui)$/i;

function readFields(row: TextRow, columns: ColumnMap<MapField>): MapEntry['fields'] {
  const fields: Record<string, string | boolean> = {};
  for (const field of ['description', 'team', 'application', 'owner'] as const) {
    const at = columns[field];
    if (at !== undefined) fields[field] = row.cells[at] ?? '';
  }
  for (const field of ['critical', 'retired'] as const) {
    const at = columns[field];
    if (at !== undefined) fields[field] = YES.test(row.cells[at] ?? '');
  }
  return fields;
}

interface RowHead {
  readonly row: TextRow;
  readonly code: string | null;
  readonly name: string;
}

/** Codes and names of all rows that have any; a missing name and a code that comes twice are problems. */
function readHeads(table: TextTable, { columns }: MapMapping): { heads: RowHead[]; problems: ImportProblem[] } {
  const problems: ImportProblem[] = [];
  const seen = new Map<string, number>();
  const heads = table.rows.flatMap((row): RowHead[] => {
    const cell = (field: MapField) => (columns[field] === undefined ? '' : (row.cells[columns[field]] ?? '').trim());
    const code = cell('code');
    const name = foldLines(cell('name'));
    if (code === '' && name === '') return [];
    if (name === '') problems.push({ ...getPlace(table, row, columns.name), message: `${code} has no name.` });
    const before = code === '' ? undefined : seen.get(code);
    if (before !== undefined)
      problems.push({ ...getPlace(table, row, columns.code), message: `Code ${code} stands in row ${before} already.` });
    else if (code !== '') seen.set(code, row.number);
    return [{ row, code: code === '' ? null : code, name }];
  });
  return { heads, problems };
}

/** A name is one line; a description keeps its own. */
const foldLines = (text: string) => text.replace(/\s+/g, ' ').trim();

function toEntry(table: TextTable, { columns }: MapMapping, { row, code, name }: RowHead, parent: number): MapEntry {
  return { place: getPlace(table, row), code, name, parent, outerParent: null, fields: readFields(row, columns) };
}

function readIndentedRows(table: TextTable, mapping: MapMapping): MapReading {
  const { heads, problems } = readHeads(table, mapping);
  const open: { indent: number; at: number }[] = [];
  const entries = heads.map((head, at) => {
    while ((open.at(-1)?.indent ?? -1) >= head.row.indent) open.pop();
    const parent = open.at(-1)?.at ?? -1;
    open.push({ indent: head.row.indent, at });
    return toEntry(table, mapping, head, parent);
  });
  return { entries, problems };
}

function readLevelRows(table: TextTable, mapping: MapMapping): MapReading {
  const entries: MapEntry[] = [];
  const found = new Map<string, number>();
  const above: string[] = [];
  const { columns, levels } = mapping;
  for (const row of table.rows) {
    const names = levels.map((column) => foldLines(row.cells[column] ?? ''));
    const deepest = names.findLastIndex((name) => name !== '');
    let parent = -1;
    for (let depth = 0; depth <= deepest; depth += 1) {
      // An empty cell goes on with the one above it, as merged cells do.
      const name = names[depth] || (above[depth] ?? '');
      if (name === '') continue;
      if (names[depth]) above.splice(depth, above.length, name);
      const key = JSON.stringify([parent, name]);
      const known = found.get(key);
      const isOwn = depth === deepest;
      const code = isOwn && columns.code !== undefined ? row.cells[columns.code] || null : null;
      if (known === undefined) {
        const fields = isOwn ? readFields(row, columns) : {};
        found.set(key, entries.push({ place: getPlace(table, row), code, name, parent, outerParent: null, fields }) - 1);
      }
      parent = known ?? entries.length - 1;
    }
  }
  return { entries, problems: findRepeatedCodes(entries) };
}

function findRepeatedCodes(entries: readonly MapEntry[]): ImportProblem[] {
  const seen = new Set<string>();
  return entries.flatMap(({ code, place }) => {
    if (code === null) return [];
    if (seen.has(code)) return [{ ...place, message: `Code ${code} stands there twice.` }];
    seen.add(code);
    return [];
  });
}

function readParentRows(table: TextTable, mapping: MapMapping): MapReading {
  const { heads, problems } = readHeads(table, mapping);
  const column = mapping.columns.parent ?? -1;
  const named = new Map<string, string>();
  for (const { code, name } of heads) if (code !== null && !named.has(name)) named.set(name, code);
  const codes = new Set(heads.flatMap(({ code }) => code ?? []));
  // A parent is said by its code, or by its name.
  const parents = heads.map(({ row }) => {
    const text = foldLines(row.cells[column] ?? '');
    return text === '' ? null : codes.has(text) ? text : (named.get(text) ?? text);
  });
  return arrange(table, mapping, { heads, parents, problems });
}

function readCodedRows(table: TextTable, mapping: MapMapping): MapReading {
  const { heads, problems } = readHeads(table, mapping);
  const missing = heads
    .filter(({ code }) => code === null)
    .map(({ row, name }) => ({ ...getPlace(table, row, mapping.columns.code), message: `${name} has no code to find its place by.` }));
  const parents = findCodeParents(heads.map(({ code }) => code ?? ''));
  return arrange(table, mapping, { heads, parents, problems: [...problems, ...missing] });
}

interface Arranging {
  readonly heads: readonly RowHead[];
  readonly parents: readonly (string | null)[];
  readonly problems: readonly ImportProblem[];
}

/** Parents come before their children; a circle is a problem. */
function arrange(table: TextTable, mapping: MapMapping, { heads, parents, problems }: Arranging): MapReading {
  const { arranged, circles } = arrangeEntries(heads.map((head, index) => ({ ...head, parent: parents[index] ?? null })));
  return {
    entries: arranged.map(({ item, parent, outerParent }) => ({ ...toEntry(table, mapping, item, parent), outerParent })),
    problems: [
      ...problems,
      ...circles.map(({ row, code, name }) => ({
        ...getPlace(table, row, mapping.columns.parent),
        message: `${code ?? name} is its own parent in the end; one of its parents has to be another.`,
      })),
    ],
  };
}
