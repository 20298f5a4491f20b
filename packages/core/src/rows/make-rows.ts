/** Row setups in words: from the classes that people name to numbered rows, and back. */
import { toNameKey } from '../values/field.ts';
import type { AllowedRows } from './allowed-rows.ts';
import { createAllowedRows, TooTangledError } from './allowed-rows.ts';
import type { CoverProgress, CoverResult } from './cover-rows.ts';
import { coverRows } from './cover-rows.ts';
import type { ClassSetup, Combination, Row, RowModel, RowProblem } from './row-model.ts';
import { findTooLarge } from './tuples.ts';

export interface MadeRow {
  readonly values: Combination;
  /** What it is there for: it stays as it was run, it must be there, or it lets classes meet. */
  readonly why: 'stays' | 'must-have' | 'covers';
  /** The column whose invalid class it tries. */
  readonly invalid?: string | undefined;
}

export type MadeRows =
  | {
      readonly ok: true;
      readonly rows: readonly MadeRow[];
      readonly lowerBound: number;
      readonly tuples: number;
      readonly combinations: number;
    }
  | RowProblem;

/** Rows that stay: their values by column; a value that is no class takes part in nothing, but the row stays. */
export interface MakeRowsInput {
  readonly setup: ClassSetup;
  readonly stays: readonly Combination[];
  readonly seed: number;
}

/** Makes rows from classes; the answer says in a sentence why there can be none. See coverRows for cost and source. */
export function* makeRows({ setup, stays, seed }: MakeRowsInput): Generator<CoverProgress, MadeRows> {
  const read = readSetup(setup);
  if ('ok' in read) return read;
  try {
    const { model } = read;
    const allowed = createAllowedRows(model);
    const problem = findImpossible(setup, read, allowed);
    if (problem) return { ok: false, message: problem };
    const staying = stays.map((values) => toRow(read, values));
    const counting = staying.filter((row) => isOpen(row, allowed));
    const mustHave = joinRows(read.mustHave, allowed);
    const result = yield* coverRows(model, { seed, stays: counting, given: mustHave });
    return toMadeRows({ setup, result, counted: counting.length, mustHave: mustHave.length, stays });
  } catch (error) {
    if (error instanceof TooTangledError) return { ok: false, message: error.message };
    throw error;
  }
}

interface ReadSetup {
  readonly model: RowModel;
  readonly valueOf: readonly ReadonlyMap<string, number>[];
  readonly columnOf: ReadonlyMap<string, number>;
  readonly mustHave: readonly Row[];
}

function readSetup(setup: ClassSetup): ReadSetup | RowProblem {
  const { columns, strength } = setup;
  const empty = columns.find(({ classes }) => classes.length === 0);
  if (columns.length < strength)
    return no(
      `${strength === 2 ? 'Pairs need two' : 'Triples need three'} columns with classes; there ${columns.length === 1 ? 'is one' : `are ${columns.length}`}.`,
    );
  if (empty) return no(`${empty.name} has no class yet. Name at least one value for it, or take the column out.`);
  for (const { name, classes } of columns) {
    const twice = classes.find(({ value }, at) =>
      classes.some((other, before) => before < at && toNameKey(other.value) === toNameKey(value)),
    );
    if (twice) return no(`${name} has the class “${twice.value}” twice.`);
  }
  const columnOf = new Map(columns.map(({ name }, column) => [toNameKey(name), column]));
  const valueOf = columns.map(({ classes }) => new Map(classes.map(({ value }, at) => [toNameKey(value), at])));
  const forbidden: (readonly (readonly [number, number])[])[] = [];
  for (const combination of setup.forbidden) {
    const pairs = toPairs(combination, columnOf, valueOf);
    if (typeof pairs === 'string') return no(`A forbidden combination names ${pairs}.`);
    if (pairs.length > 0) forbidden.push(pairs);
  }
  const model: RowModel = {
    strength,
    sizes: columns.map(({ classes }) => classes.length),
    isInvalid: columns.map(({ classes }) => classes.map(({ kind }) => kind === 'invalid')),
    forbidden,
  };
  const large = findTooLarge(model);
  if (large) return no(large);
  const mustHave: Row[] = [];
  for (const combination of [...setup.mustHave, ...listMustHaveClasses(setup)]) {
    const pairs = toPairs(combination, columnOf, valueOf);
    if (typeof pairs === 'string') return no(`A row that must be there names ${pairs}.`);
    mustHave.push(fill(model, pairs));
  }
  return { model, valueOf, columnOf, mustHave };
}

const no = (message: string): RowProblem => ({ ok: false, message });

const listMustHaveClasses = ({ columns }: ClassSetup): Combination[] =>
  columns.flatMap(({ name, classes }) => classes.flatMap(({ value, kind }) => (kind === 'must-have' ? [{ [name]: value }] : [])));

function toPairs(
  combination: Combination,
  columnOf: ReadonlyMap<string, number>,
  valueOf: readonly ReadonlyMap<string, number>[],
): (readonly [number, number])[] | string {
  const pairs: (readonly [number, number])[] = [];
  for (const [name, text] of Object.entries(combination)) {
    const column = columnOf.get(toNameKey(name));
    if (column === undefined) return `the column “${name}”, which has no classes`;
    const value = valueOf[column]?.get(toNameKey(text));
    if (value === undefined) return `“${text}”, which is no class of ${name}`;
    pairs.push([column, value]);
  }
  return pairs;
}

function fill(model: RowModel, pairs: readonly (readonly [number, number])[]): Row {
  const row: Row = new Int16Array(model.sizes.length).fill(-1);
  for (const [column, value] of pairs) row[column] = value;
  return row;
}

/** Rows that must be there join in one where they ask for nothing different and the whole is allowed. Cost O(rows²). */
function joinRows(rows: readonly Row[], allowed: AllowedRows): Row[] {
  const joined: Row[] = [];
  for (const row of rows) {
    const at = joined.findIndex((other) => other.every((value, column) => value < 0 || row[column]! < 0 || row[column] === value));
    const whole = joined[at]?.map((value, column) => (value < 0 ? row[column]! : value));
    if (whole && allowed.canComplete(whole)) joined[at] = whole;
    else joined.push(row);
  }
  return joined;
}

function findImpossible(setup: ClassSetup, { model, mustHave }: ReadSetup, allowed: AllowedRows): string | null {
  const withoutValid = setup.columns.filter(({ classes }) => classes.every(({ kind }) => kind === 'invalid')).map(({ name }) => name);
  if (withoutValid.length > 1)
    return `${new Intl.ListFormat('en').format(withoutValid)} have invalid classes alone, and a row tries one at a time. Give one of them a valid class.`;
  if (!allowed.canComplete(new Int16Array(model.sizes.length).fill(-1)))
    return 'The forbidden combinations leave no row at all. Take one of them out.';
  const lost = mustHave.find((row) => !allowed.canComplete(row));
  if (lost) return `The row that must be there with ${describe(setup, lost)} is itself forbidden.`;
  return null;
}

function describe({ columns }: ClassSetup, row: Row): string {
  const parts = [...row].flatMap((value, column) =>
    value < 0 ? [] : [`${columns[column]?.name} ${columns[column]?.classes[value]?.value}`],
  );
  return parts.join(' and ');
}

function toRow({ model, valueOf, columnOf }: ReadSetup, values: Combination): Row {
  const row: Row = new Int16Array(model.sizes.length).fill(-1);
  for (const [name, text] of Object.entries(values)) {
    const column = columnOf.get(toNameKey(name));
    const value = column === undefined ? undefined : valueOf[column]?.get(toNameKey(text));
    if (column !== undefined && value !== undefined) row[column] = value;
  }
  return row;
}

/** A row that stays counts when it is allowed; one that is forbidden by now stays, but covers nothing. */
const isOpen = (row: Row, allowed: AllowedRows) => row.some((value) => value >= 0) && allowed.canComplete(row);

function toMadeRows(parts: {
  setup: ClassSetup;
  result: CoverResult;
  counted: number;
  mustHave: number;
  stays: readonly Combination[];
}): MadeRows {
  const { setup, result, counted, mustHave, stays } = parts;
  const toValues = (row: Row): Combination =>
    Object.fromEntries(setup.columns.map(({ name, classes }, column) => [name, classes[row[column] ?? -1]?.value ?? '']));
  const findInvalid = (row: Row) => setup.columns.find(({ classes }, column) => classes[row[column] ?? -1]?.kind === 'invalid')?.name;
  const made = result.rows.slice(counted).map((row, at): MadeRow => ({
    values: toValues(row),
    why: at < mustHave ? 'must-have' : 'covers',
    invalid: findInvalid(row),
  }));
  return {
    ok: true,
    rows: [...stays.map((values): MadeRow => ({ values, why: 'stays' })), ...made],
    lowerBound: result.lowerBound,
    tuples: result.tuples,
    combinations: setup.columns.reduce((product, { classes }) => product * classes.length, 1),
  };
}
