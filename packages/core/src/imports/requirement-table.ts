import type { ColumnKind, ColumnMap } from '../tables/guess-columns.ts';
import { guessColumns } from '../tables/guess-columns.ts';
import type { ImportProblem, Place } from '../tables/place.ts';
import type { TextTable } from '../tables/text-table.ts';
import { getPlace, toHeadingKey } from '../tables/text-table.ts';
import type { Priority } from '../values/priority.ts';
import { PRIORITIES } from '../values/priority.ts';
import { readPriority } from '../tables/read-priority.ts';
import type { RequirementKind } from '../requirements/requirement.ts';
import { REQUIREMENT_KINDS } from '../requirements/requirement.ts';

export const REQUIREMENT_FIELDS = ['code', 'title', 'description', 'kind', 'priority', 'nodes', 'tests'] as const;
export type RequirementField = (typeof REQUIREMENT_FIELDS)[number];

export const REQUIREMENT_COLUMNS: readonly ColumnKind<RequirementField>[] = [
  { field: 'nodes', label: 'Processes', says: /^(linked )?(nodes?|process(es)?|activit(y|ies))( codes?)?$/ },
  { field: 'tests', label: 'Tests', says: /^(linked |verified by )?tests?( cases?)?( codes?)?$/ },
  { field: 'description', label: 'Description', says: /^(description|details?|text|rationale|notes?|remarks?)$/ },
  { field: 'kind', label: 'Kind', says: /^(kind|type|category|class)$/ },
  { field: 'priority', label: 'Priority', says: /^(priority|prio|importance|moscow)$/ },
  { field: 'code', label: 'Code', says: /^(.* )?(code|id|key|no|nr|number|ref|reference|identifier)$/ },
  { field: 'title', label: 'What must hold', says: /^(title|name|requirement|what must hold|statement|summary|short text|heading)$/ },
];

/** What a file says of a requirement; what it has no column for is absent. */
export interface RequirementEntry {
  readonly place: Place;
  readonly code: string;
  readonly title: string;
  readonly description?: string | undefined;
  readonly kind?: RequirementKind | undefined;
  readonly priority?: Priority | undefined;
  readonly nodes?: readonly string[] | undefined;
  readonly tests?: readonly string[] | undefined;
}

export interface RequirementReading {
  readonly entries: readonly RequirementEntry[];
  readonly problems: readonly ImportProblem[];
}

export function guessRequirementColumns(table: TextTable): ColumnMap<RequirementField> {
  const columns = guessColumns(table.headings, REQUIREMENT_COLUMNS);
  // A list without a title column says what must hold in its text.
  const { description, ...others } = columns;
  return columns.title === undefined && description !== undefined ? { ...others, title: description } : columns;
}

/** Reads a list of requirements, a row each. Cost O(rows). */
export function readRequirementTable(table: TextTable, columns: ColumnMap<RequirementField>): RequirementReading {
  const problems: ImportProblem[] = [];
  const seen = new Set<string>();
  const entries = table.rows.flatMap((row): RequirementEntry[] => {
    const cell = (field: RequirementField) => (columns[field] === undefined ? undefined : (row.cells[columns[field]] ?? '').trim());
    const fail = (field: RequirementField, message: string) => problems.push({ ...getPlace(table, row, columns[field]), message });
    const code = cell('code') ?? '';
    const title = (cell('title') ?? '').replace(/\s+/g, ' ');
    if (code === '' && title === '') return [];
    if (code === '') fail('code', `“${title.slice(0, 40)}” has no code.`);
    else if (!/^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$/.test(code))
      fail('code', `“${code.slice(0, 40)}” is not a code: letters, digits, points, hyphens and underscores, at most 40.`);
    else if (seen.has(code)) fail('code', `Code ${code} stands there twice.`);
    if (title === '') fail('title', `${code} does not say what must hold.`);
    seen.add(code);
    const kind = readKind(cell('kind'));
    if (kind === null) fail('kind', `“${cell('kind') ?? ''}” is not a kind. Known: ${REQUIREMENT_KINDS.join(', ')}.`);
    const said = cell('priority') ?? '';
    const priority = said === '' ? undefined : readPriority(said);
    if (priority === null) fail('priority', `“${said}” is not a priority. Known: ${PRIORITIES.join(', ')}.`);
    const links = { nodes: splitCodes(cell('nodes')), tests: splitCodes(cell('tests')) };
    return [
      {
        place: getPlace(table, row),
        code,
        title,
        description: cell('description'),
        kind: kind ?? undefined,
        priority: priority ?? undefined,
        ...links,
      },
    ];
  });
  return { entries, problems };
}

/** Undefined where nothing is said, null where the word is unknown. */
function readKind(text: string | undefined): RequirementKind | null | undefined {
  if (text === undefined || text === '') return undefined;
  const key = toHeadingKey(text);
  return REQUIREMENT_KINDS.find((word) => key === word || key.startsWith(`${word} `)) ?? null;
}

function splitCodes(text: string | undefined): string[] | undefined {
  return text?.split(/[\s,;|]+/).filter((code) => code !== '');
}
