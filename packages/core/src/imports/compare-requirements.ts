import type { Priority } from '../values/priority.ts';
import type { FieldChange } from './compare-map.ts';
import type { ImportProblem } from '../tables/place.ts';
import type { RequirementKind } from '../requirements/requirement.ts';
import type { RequirementEntry } from './requirement-table.ts';

/** A requirement as it stands. */
export interface StoredRequirement {
  readonly code: string;
  readonly title: string;
  readonly description: string;
  readonly kind: RequirementKind;
  readonly priority: Priority;
  readonly nodes: readonly string[];
  readonly tests: readonly string[];
}

interface RequirementDifference {
  readonly kind: 'new' | 'changed' | 'same';
  readonly code: string;
  /** As it would stand then. */
  readonly after: StoredRequirement;
  readonly changes: readonly { readonly field: string; readonly before: string; readonly after: string }[];
}

export interface RequirementComparison {
  readonly differences: readonly RequirementDifference[];
  /** Codes that are there and that the file does not have; they stay. */
  readonly missing: readonly string[];
  readonly problems: readonly ImportProblem[];
}

export interface RequirementSurroundings {
  readonly requirements: readonly StoredRequirement[];
  readonly nodes: readonly string[];
  readonly tests: readonly string[];
}

const NEW = { description: '', kind: 'functional', priority: 'medium', nodes: [], tests: [] } as const;

/** Compares a list with what is there, by code and field by field; what the list does not say stays. Cost O(entries + links). */
export function compareRequirements(entries: readonly RequirementEntry[], around: RequirementSurroundings): RequirementComparison {
  const known = new Map(around.requirements.map((requirement) => [requirement.code, requirement]));
  const given = new Set(entries.map(({ code }) => code));
  return {
    differences: entries.map((entry) => compare(entry, known.get(entry.code))),
    missing: around.requirements.flatMap(({ code }) => (given.has(code) ? [] : [code])),
    problems: [
      ...findUnknownLinks(entries, 'nodes', new Set(around.nodes), 'Node', 'on the map'),
      ...findUnknownLinks(entries, 'tests', new Set(around.tests), 'Test', 'in the library'),
    ],
  };
}

function compare(entry: RequirementEntry, before: StoredRequirement | undefined): RequirementDifference {
  const { place: _, ...said } = entry;
  const given = Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined)) as Partial<StoredRequirement>;
  const after: StoredRequirement = { ...(before ?? { ...NEW, code: entry.code, title: entry.title }), ...given };
  if (!before) return { kind: 'new', code: entry.code, after, changes: [] };
  const changes = (['title', 'description', 'kind', 'priority', 'nodes', 'tests'] as const).flatMap((field) => {
    const [was, is] = [toText(before[field]), toText(after[field])];
    return was === is ? [] : [{ field, before: was, after: is } satisfies Record<keyof FieldChange, string>];
  });
  return { kind: changes.length > 0 ? 'changed' : 'same', code: entry.code, after, changes };
}

const toText = (value: string | readonly string[]) =>
  typeof value === 'string' ? value.replace(/\r\n?/g, '\n').trim() : [...new Set(value)].sort().join(' ');

function findUnknownLinks(
  entries: readonly RequirementEntry[],
  field: 'nodes' | 'tests',
  known: ReadonlySet<string>,
  word: string,
  where: string,
): ImportProblem[] {
  return entries.flatMap((entry) =>
    (entry[field] ?? []).flatMap((code) =>
      known.has(code) ? [] : [{ ...entry.place, message: `${word} ${code}, linked by ${entry.code}, is not ${where}.` }],
    ),
  );
}
