import type { ClassColumn, ClassKind, ClassSetup, Combination, RowClass } from '@kindred-baton/core/rows/row-model';
import type { MadeRow } from '@kindred-baton/core/rows/make-rows';
import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import type { RowDocument } from '@kindred-baton/core/scenarios/scenario-document';
import type { Field } from '@kindred-baton/core/values/field';
import { toNameKey } from '@kindred-baton/core/values/field';

/** The setup that a scenario begins with: the choices of its columns, and the values that its rows have, are classes. */
export function createSetup(columns: readonly Field[], rows: readonly RowDocument[]): ClassSetup {
  return {
    strength: 2,
    forbidden: [],
    mustHave: [],
    columns: columns.map((column) => ({ name: column.name, classes: proposeClasses(column, rows) })),
  };
}

const MOST_PROPOSED = 6;

function proposeClasses(column: Field, rows: readonly RowDocument[]): RowClass[] {
  const values = column.choices ?? rows.map((row) => row.values[column.name] ?? '');
  const different = new Map(values.filter((value) => value !== '').map((value) => [toNameKey(value), value]));
  return [...different.values()].slice(0, MOST_PROPOSED).map((value) => ({ value, kind: 'valid' }));
}

/** Classes as they are typed: one a line or with commas. What each was meant as stays with its value. */
export function parseClasses(text: string, before: readonly RowClass[]): RowClass[] {
  const kindOf = new Map(before.map(({ value, kind }) => [toNameKey(value), kind]));
  return text
    .split(/[,\n]/)
    .map((part) => part.trim())
    .filter((part) => part !== '')
    .map((value) => ({ value, kind: kindOf.get(toNameKey(value)) ?? 'valid' }));
}

export const printClasses = (classes: readonly RowClass[]) => classes.map(({ value }) => value).join(', ');

/** One class meant otherwise: pressed again it is an ordinary one. */
export const switchClass = (classes: readonly RowClass[], value: string, kind: ClassKind): RowClass[] =>
  classes.map((each) => (each.value === value ? { value, kind: each.kind === kind ? 'valid' : kind } : each));

/** Columns that have no class yet take no part; a column that is gone from the scenario neither. */
export function toUsed(setup: ClassSetup, columns: readonly Field[]): ClassSetup {
  const known = new Set(columns.map(({ name }) => toNameKey(name)));
  const used = setup.columns.filter(({ name, classes }) => classes.length > 0 && known.has(toNameKey(name)));
  return { ...setup, columns: used };
}

export function setClasses(setup: ClassSetup, name: string, classes: readonly RowClass[]): ClassSetup {
  const changed: ClassColumn = { name, classes };
  const has = setup.columns.some((column) => toNameKey(column.name) === toNameKey(name));
  return {
    ...setup,
    columns: has
      ? setup.columns.map((column) => (toNameKey(column.name) === toNameKey(name) ? changed : column))
      : [...setup.columns, changed],
  };
}

export const printCombination = (combination: Combination) =>
  Object.entries(combination)
    .map(([name, value]) => `${name} ${value}`)
    .join(' and ');

/** The edits that put made rows into the scenario: what does not stay goes, what is new comes. */
export function toRowEdits(
  made: readonly MadeRow[],
  rows: readonly RowDocument[],
  stays: ReadonlySet<string>,
  createId: () => string,
): ScenarioEdit[] {
  const gone = rows.filter(({ id }) => !stays.has(id)).map(({ id }): ScenarioEdit => ({ kind: 'remove row', row: id }));
  const fresh = made
    .filter(({ why }) => why !== 'stays')
    .map(({ values, invalid }, index): ScenarioEdit => {
      const name = `${index + 1 + stays.size}: ${Object.values(values).slice(0, 3).join(', ')}${invalid === undefined ? '' : ` (${invalid} invalid)`}`;
      return { kind: 'add row', row: { id: createId(), name: name.slice(0, 200), values }, before: null };
    });
  return [...gone, ...fresh];
}
