import type { Likeness, ListDifference } from '../values/compare-lists.ts';
import { compareLists } from '../values/compare-lists.ts';
import type { Field } from '../values/field.ts';
import { FIELD_TYPE_LABELS, toNameKey } from '../values/field.ts';
import type { Combination } from '../rows/row-model.ts';

/** A leg in words, as two scenarios or two states of one are compared. */
export interface ComparedLeg {
  /** The test's code; null: open. */
  readonly test: string | null;
  readonly version: number | null;
  readonly title: string;
  readonly team: string | null;
  readonly persona: string | null;
  readonly note: string;
  readonly waitDays: number;
  /** Sources set by hand, in words that do not name ids: “Quote no. from Price the quote”. */
  readonly wires: readonly string[];
  /** What it waits for, in words. */
  readonly after: readonly string[];
  /** Who may do it, in words. */
  readonly people: readonly string[];
  readonly needs: readonly string[];
  readonly gives: readonly string[];
}

export interface ComparedScenario {
  readonly name: string;
  readonly legs: readonly ComparedLeg[];
  readonly columns: readonly Field[];
  readonly rows: readonly { readonly name: string; readonly values: Combination }[];
}

export type LegDifference = ListDifference<ComparedLeg> & { readonly changes: readonly string[] };

export interface ScenarioComparison {
  readonly legs: readonly LegDifference[];
  /** Columns and rows, in sentences. */
  readonly data: readonly string[];
  readonly isSame: boolean;
}

const LEG_LABELS: Readonly<Record<keyof ComparedLeg, string>> = {
  ...{ test: 'test', version: 'version', title: 'words', team: 'lane', persona: 'persona', note: 'note', waitDays: 'waiting days' },
  ...{ wires: 'wiring', after: 'what it waits for', people: 'who may do it', needs: 'needs', gives: 'gives' },
};

/** A leg is known by its test; an open one, and one that was filled or given another test, by its words. */
const LEG_LIKENESS: Likeness<ComparedLeg> = {
  toKey: ({ test, title }) => test ?? toNameKey(title),
  likes: [
    (a, b) => toNameKey(a.title) === toNameKey(b.title),
    (a, b) => a.team !== null && a.team === b.team && (a.test === null) !== (b.test === null),
  ],
};

/** Compares two scenarios, or a scenario with an earlier state of itself: legs, columns, rows. Cost O(legs²). */
export function compareScenarios(before: ComparedScenario, after: ComparedScenario): ScenarioComparison {
  const legs = compareLists(before.legs, after.legs, LEG_LIKENESS).map((row): LegDifference => {
    if (row.kind === 'added' || row.kind === 'removed') return { ...row, changes: [] };
    const changes = describeChanges(row.before.item, row.after.item);
    return { ...row, kind: row.kind === 'same' && changes.length > 0 ? 'changed' : row.kind, changes };
  });
  const data = [...compareColumns(before.columns, after.columns), ...compareRows(before.rows, after.rows)];
  return { legs, data, isSame: data.length === 0 && legs.every(({ kind }) => kind === 'same') };
}

function describeChanges(before: ComparedLeg, after: ComparedLeg): string[] {
  return (Object.keys(LEG_LABELS) as (keyof ComparedLeg)[])
    .filter((name) => JSON.stringify(before[name]) !== JSON.stringify(after[name]))
    .map((name) => `${LEG_LABELS[name]}: ${tell(before[name])} → ${tell(after[name])}`);
}

function tell(value: ComparedLeg[keyof ComparedLeg]): string {
  const text = Array.isArray(value) ? value.join(', ') : String(value ?? '');
  return text === '' ? 'none' : text;
}

function compareColumns(before: readonly Field[], after: readonly Field[]): string[] {
  const find = (columns: readonly Field[], { name }: Field) => columns.find((column) => toNameKey(column.name) === toNameKey(name));
  return [
    ...after.filter((column) => !find(before, column)).map(({ name }) => `Column ${name} is new.`),
    ...before.filter((column) => !find(after, column)).map(({ name }) => `Column ${name} is gone.`),
    ...after.flatMap((column) => {
      const old = find(before, column);
      return old && old.type !== column.type
        ? [`Column ${column.name}: ${FIELD_TYPE_LABELS[old.type]} → ${FIELD_TYPE_LABELS[column.type]}.`]
        : [];
    }),
  ];
}

function compareRows(before: ComparedScenario['rows'], after: ComparedScenario['rows']): string[] {
  const find = (rows: ComparedScenario['rows'], name: string) => rows.find((row) => toNameKey(row.name) === toNameKey(name));
  return [
    ...after.filter(({ name }) => !find(before, name)).map(({ name }) => `Row “${name}” is new.`),
    ...before.filter(({ name }) => !find(after, name)).map(({ name }) => `Row “${name}” is gone.`),
    ...after.flatMap((row) => {
      const old = find(before, row.name);
      if (!old) return [];
      const names = [...new Set([...Object.keys(old.values), ...Object.keys(row.values)])];
      return names
        .filter((name) => (old.values[name] ?? '') !== (row.values[name] ?? ''))
        .map((name) => `Row “${row.name}”, ${name}: ${tell(old.values[name] ?? '')} → ${tell(row.values[name] ?? '')}.`);
    }),
  ];
}

/** A leg’s line in a comparison, as people read it: numbers from 1, words instead of ids. */
export interface ComparisonLine {
  readonly kind: LegDifference['kind'];
  readonly before: ComparedSide | null;
  readonly after: ComparedSide | null;
  readonly changes: string[];
}

type ComparedSide = Pick<ComparedLeg, 'title' | 'test' | 'team'> & { readonly index: number };

export const toComparisonLines = (legs: readonly LegDifference[]): ComparisonLine[] =>
  legs.map((row) => ({
    kind: row.kind,
    before: toSide('before' in row ? row.before : undefined),
    after: toSide('after' in row ? row.after : undefined),
    changes: [...row.changes],
  }));

function toSide(side: { readonly index: number; readonly item: ComparedLeg } | undefined): ComparedSide | null {
  return side ? { index: side.index + 1, title: side.item.title, test: side.item.test, team: side.item.team } : null;
}
