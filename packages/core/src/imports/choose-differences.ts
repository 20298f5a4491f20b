import type { MapDifference, MapNodeState } from './compare-map.ts';
import type { MapEdit } from '../map/edit-outline.ts';
import type { OutlineNode } from '../map/outline.ts';

/** What is to happen with nodes that the file does not have. */
export const MISSING_CHOICES = ['keep', 'retire', 'remove'] as const;
type MissingChoice = (typeof MISSING_CHOICES)[number];

export interface DifferenceChoice {
  /** Branches that stay as they are: nothing of them or below them is taken in. */
  readonly leftOut: readonly string[];
  readonly missing: MissingChoice;
}

/** A node of the store’s map as edits see it, with names instead of ids. */
export interface NamedNode extends OutlineNode {
  readonly description: string;
  readonly team: string | null;
  readonly application: string | null;
  readonly owner: string | null;
  readonly isCritical: boolean;
  readonly isRetired: boolean;
}

/**
 * The edits that bring the chosen differences about: new nodes after their siblings in the file’s order, changed fields, moves,
 * and what was chosen for missing nodes. The same file again gives none. Cost O(differences).
 */
export function toMapEdits(differences: readonly MapDifference[], { leftOut, missing }: DifferenceChoice): MapEdit<NamedNode>[] {
  const out = new Set(leftOut);
  const taken = differences.filter((difference) => {
    const isOut = out.has(difference.code) || (difference.parent !== null && out.has(difference.parent));
    if (isOut) out.add(difference.code);
    return !isOut;
  });
  const gone = new Set(taken.flatMap(({ kind, code }) => (kind === 'missing' ? [code] : [])));
  return taken.flatMap((difference) => [...toEdits(difference), ...toMissingEdits(difference, missing, gone)]);
}

const LAST = Number.MAX_SAFE_INTEGER;

function toEdits({ kind, code, name, parent, changes, fields }: MapDifference): MapEdit<NamedNode>[] {
  if (kind === 'new') return [{ kind: 'add', code, name, parent, at: LAST, fields: toFields(fields) }];
  const move: MapEdit<NamedNode>[] = kind === 'moved' ? [{ kind: 'move', places: [{ code, parent, at: LAST }] }] : [];
  const change = Object.fromEntries(
    changes.map(({ field, after }) =>
      field === 'critical' || field === 'retired'
        ? [FLAGS[field], after === 'yes']
        : [field, after === '' && field !== 'description' ? null : after],
    ),
  );
  return changes.length === 0 ? move : [...move, { kind: 'change', code, change }];
}

const FLAGS = { critical: 'isCritical', retired: 'isRetired' } as const;

function toFields({ critical, retired, description, ...names }: MapDifference['fields']): Partial<NamedNode> {
  const given = Object.entries(names).filter(([, name]) => name !== '');
  return {
    ...Object.fromEntries(given),
    ...(description === undefined ? {} : { description }),
    ...(critical === undefined ? {} : { isCritical: critical }),
    ...(retired === undefined ? {} : { isRetired: retired }),
  };
}

function toMissingEdits({ kind, code, parent }: MapDifference, choice: MissingChoice, gone: ReadonlySet<string>): MapEdit<NamedNode>[] {
  if (kind !== 'missing' || choice === 'keep') return [];
  if (choice === 'retire') return [{ kind: 'change', code, change: { isRetired: true } }];
  // With a missing parent a node goes anyway.
  return parent !== null && gone.has(parent) ? [] : [{ kind: 'remove', codes: [code] }];
}

/** What the comparison is made with, from nodes in map order. */
export function toNodeStates(nodes: readonly NamedNode[]): MapNodeState[] {
  const codes = new Map(nodes.map(({ id, code }) => [id, code]));
  return nodes.map((node) => ({ ...node, parent: node.parentId === null ? null : (codes.get(node.parentId) ?? null) }));
}
