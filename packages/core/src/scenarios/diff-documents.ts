import { toNameKey } from '../values/field.ts';
import { isSame } from '../values/is-same.ts';
import type { LegChange, ScenarioEdit } from './edit-scenario.ts';
import type { LegDocument, ScenarioDocument } from './scenario-document.ts';

/**
 * The edits that make one state of a scenario of another; none when they are the same. Cost O(legs + rows).
 */
export function diffDocuments(before: ScenarioDocument, after: ScenarioDocument): ScenarioEdit[] {
  return [
    ...diffLegs(before.legs, after.legs),
    ...diffColumns(before, after),
    ...diffRows(before.rows, after.rows),
    ...(isSame(before.classes, after.classes) ? [] : [{ kind: 'set classes' as const, classes: after.classes }]),
  ];
}

/** New legs come before what names them changes; what is gone goes last, when nothing names it any more. */
function diffLegs(before: readonly LegDocument[], after: readonly LegDocument[]): ScenarioEdit[] {
  const old = new Map(before.map((leg) => [leg.id, leg]));
  const kept = new Set(after.map(({ id }) => id));
  const gone = before.filter(({ id }) => !kept.has(id));
  const added = after.filter(({ id }) => !old.has(id));
  const changed = after.flatMap((leg): ScenarioEdit[] => {
    const was = old.get(leg.id);
    const names = was ? (Object.keys(leg) as (keyof LegDocument)[]).filter((name) => name !== 'id' && !isSame(leg[name], was[name])) : [];
    if (names.length === 0) return [];
    return [{ kind: 'change leg', leg: leg.id, change: Object.fromEntries(names.map((name) => [name, leg[name]])) as LegChange }];
  });
  const order = [...before.filter(({ id }) => kept.has(id)), ...added].map(({ id }) => id);
  const wanted = after.map(({ id }) => id);
  return [
    ...gone.map(({ id }): ScenarioEdit => ({ kind: 'remove leg', leg: id })),
    ...added.map((leg): ScenarioEdit => ({ kind: 'add leg', leg, before: null })),
    ...changed,
    ...(isSame(order, wanted) ? [] : wanted.map((leg): ScenarioEdit => ({ kind: 'move leg', leg, before: null }))),
  ];
}

function diffColumns(before: ScenarioDocument, after: ScenarioDocument): ScenarioEdit[] {
  if (isSame(before.columns, after.columns)) return [];
  const old = new Map(before.columns.map((column) => [toNameKey(column.name), column]));
  const kept = new Set(after.columns.map(({ name }) => toNameKey(name)));
  const isInOrder = isSame(
    before.columns.filter(({ name }) => kept.has(toNameKey(name))).map(({ name }) => toNameKey(name)),
    after.columns.filter(({ name }) => old.has(toNameKey(name))).map(({ name }) => toNameKey(name)),
  );
  const gone = before.columns.filter(({ name }) => !isInOrder || !kept.has(toNameKey(name)));
  const goneKeys = new Set(gone.map(({ name }) => toNameKey(name)));
  const edits: ScenarioEdit[] = gone.map(({ name }) => ({ kind: 'remove column', column: name }));
  after.columns.forEach((column, index) => {
    const was = goneKeys.has(toNameKey(column.name)) ? undefined : old.get(toNameKey(column.name));
    if (!was)
      edits.push({
        kind: 'add column',
        column,
        before: findNextKept(after.columns, index, (name) => old.has(name) && !goneKeys.has(name)),
      });
    else if (!isSame(was, column)) edits.push({ kind: 'change column', column: was.name, change: column });
  });
  // Columns that were laid anew have lost their values.
  const restored = after.rows.flatMap((row): ScenarioEdit[] => {
    const values = Object.fromEntries(Object.entries(row.values).filter(([name]) => goneKeys.has(toNameKey(name))));
    return before.rows.some(({ id }) => id === row.id) && Object.keys(values).length > 0
      ? [{ kind: 'change row', row: row.id, values }]
      : [];
  });
  return [...edits, ...restored];
}

function findNextKept(columns: ScenarioDocument['columns'], index: number, isKept: (key: string) => boolean): string | null {
  return columns.slice(index + 1).find(({ name }) => isKept(toNameKey(name)))?.name ?? null;
}

function diffRows(before: ScenarioDocument['rows'], after: ScenarioDocument['rows']): ScenarioEdit[] {
  const old = new Map(before.map((row) => [row.id, row]));
  const kept = new Set(after.map(({ id }) => id));
  return [
    ...before.filter(({ id }) => !kept.has(id)).map(({ id }): ScenarioEdit => ({ kind: 'remove row', row: id })),
    ...after.flatMap((row): ScenarioEdit[] => {
      const was = old.get(row.id);
      if (!was) return [{ kind: 'add row', row, before: null }];
      const names = [...new Set([...Object.keys(was.values), ...Object.keys(row.values)])];
      const values = Object.fromEntries(
        names.filter((name) => (was.values[name] ?? '') !== (row.values[name] ?? '')).map((name) => [name, row.values[name] ?? '']),
      );
      if (was.name === row.name && Object.keys(values).length === 0) return [];
      return [{ kind: 'change row', row: row.id, ...(was.name === row.name ? {} : { name: row.name }), values }];
    }),
  ];
}
