/**
 * Rows that let every pair (or triple) of classes meet. Greedy, a row at a time: the class with the most tuples left begins a row, the
 * columns follow in random order, each with the class that adds the most; the best of several such rows is taken (D. M. Cohen, S. R. Dalal,
 * M. L. Fredman, G. C. Patton, “The AETG system”, IEEE Trans. Software Eng. 23, 1997; from memory). Rows that the others make superfluous go
 * again, and small problems are begun anew with other seeds while the budget lasts. Cost O(rows × candidates × columns ^ strength × classes).
 */
import { createRandom } from '../values/fresh.ts';
import type { AllowedRows } from './allowed-rows.ts';
import { createAllowedRows } from './allowed-rows.ts';
import { getLowerBound } from './lower-bound.ts';
import type { Row, RowModel } from './row-model.ts';
import type { Gains, Tuples } from './tuples.ts';
import { addGains, copyTuples, createGains, coverRow, createTuples, findLeft } from './tuples.ts';

export interface CoverProgress {
  readonly covered: number;
  readonly total: number;
  readonly rows: number;
}

export interface CoverResult {
  /** The rows that stay, those that were given, completed, then the new ones. */
  readonly rows: readonly Row[];
  readonly lowerBound: number;
  readonly tuples: number;
}

export interface CoverOptions {
  readonly seed: number;
  /** Rows that are there already: they cover what they have and are not touched. They come first. */
  readonly stays?: readonly Row[];
  /** Rows that must be there, complete or in part; they are completed, and come next. */
  readonly given?: readonly Row[];
  /** Steps of counting that may be spent, which is what the time goes by; about 200 million a second. */
  readonly budget?: number;
}

const DEFAULT_BUDGET = 30_000_000;
const MOST_CANDIDATES = 40;
/** Steps of counting that choosing among one class takes as long as; measured. */
const CHOOSING = 12;
const MOST_RESTARTS = 60;

/** Makes the rows; each turn of the generator is a few milliseconds of work, so that it can be shown and stopped. */
export function* coverRows(
  model: RowModel,
  { seed, stays = [], given = [], budget = DEFAULT_BUDGET }: CoverOptions,
): Generator<CoverProgress, CoverResult> {
  const allowed = createAllowedRows(model);
  const fresh = createTuples(model, allowed);
  const lowerBound = Math.max(getLowerBound(model, allowed, fresh.mostOfOneSet), stays.length);
  let best: Row[] | null = null;
  let spent = 0;
  for (let restart = 0; restart < MOST_RESTARTS; restart += 1) {
    const attempt = createAttempt({ model, allowed, tuples: copyTuples(fresh), random: createRandom(seed + restart) }, budget / 3);
    for (const row of stays) coverRow(attempt.tuples, row);
    const rows = [...stays, ...given.map((row) => takeGiven(attempt, row))];
    while (attempt.tuples.left > 0 && (best === null || rows.length < best.length)) {
      rows.push(makeRow(attempt));
      if (best === null) yield { covered: fresh.total - attempt.tuples.left, total: fresh.total, rows: rows.length };
    }
    if (attempt.tuples.left === 0) {
      const lean = dropSuperfluous(fresh, rows, stays.length + given.length);
      if (best === null || lean.length < best.length) best = lean;
    }
    spent += attempt.spent;
    if ((best?.length ?? Infinity) <= lowerBound || spent + spent / (restart + 1) > budget) break;
    yield { covered: fresh.total, total: fresh.total, rows: best?.length ?? rows.length };
  }
  return { rows: best ?? [], lowerBound, tuples: fresh.total };
}

interface AttemptParts {
  readonly model: RowModel;
  readonly allowed: AllowedRows;
  readonly tuples: Tuples;
  readonly random: () => number;
}

/** One way from nothing to rows that cover all. */
interface Attempt extends AttemptParts {
  /** Steps of counting so far. */
  spent: number;
  readonly order: Int32Array;
  readonly gains: Gains;
  readonly candidates: number;
}

function createAttempt(parts: AttemptParts, budget: number): Attempt {
  const columns = parts.model.sizes.length;
  const classes = parts.tuples.needy.length;
  const perRow = classes * (parts.tuples.strength === 2 ? columns : (columns * columns) / 2);
  const rows = Math.max(1, parts.tuples.mostOfOneSet) * 1.6;
  return {
    ...parts,
    spent: 0,
    order: Int32Array.from(parts.model.sizes.keys()),
    gains: createGains(parts.tuples),
    candidates: Math.max(1, Math.min(MOST_CANDIDATES, Math.floor(budget / (perRow * rows)))),
  };
}

function takeGiven(attempt: Attempt, given: Row): Row {
  const row = given.slice();
  completeRow(attempt, row);
  coverRow(attempt.tuples, row);
  return row;
}

function makeRow(attempt: Attempt): Row {
  const { tuples, model } = attempt;
  let best: Row = new Int16Array(model.sizes.length);
  let bestGain = -1;
  for (let candidate = 0; candidate < attempt.candidates; candidate += 1) {
    const row: Row = new Int16Array(model.sizes.length).fill(-1);
    for (const one of findLeft(tuples, chooseNeedy(attempt), attempt.random) ?? []) {
      const column = findColumn(tuples.starts, one);
      row[column] = one - tuples.starts[column]!;
    }
    const gain = completeRow(attempt, row) + 1;
    if (gain > bestGain) [best, bestGain] = [row, gain];
  }
  coverRow(tuples, best);
  return best;
}

/** The class with the most tuples left; among equals any. */
function chooseNeedy({ tuples: { needy }, random }: Attempt): number {
  let [best, most, ties] = [0, -1, 0];
  for (let each = 0; each < needy.length; each += 1) {
    if (needy[each]! > most) [best, most, ties] = [each, needy[each]!, 1];
    else if (needy[each] === most && random() * (ties += 1) < 1) best = each;
  }
  return best;
}

function findColumn(starts: Int32Array, one: number): number {
  let column = 0;
  while (starts[column + 1]! <= one) column += 1;
  return column;
}

/** Sets the columns that are not set yet, in random order, those that gain nothing last; how many tuples the row then adds. */
function completeRow(attempt: Attempt, row: Row): number {
  const { tuples, model, gains } = attempt;
  const { starts } = tuples;
  const chosen: number[] = [];
  let invalid = 0;
  let total = 0;
  // What goes beside the counting: choosing a class for each column.
  attempt.spent += CHOOSING * gains.bytes.length;
  gains.bytes.fill(0);
  gains.values.fill(0);
  const join = (column: number, value: number) => {
    const one = starts[column]! + value;
    total += gains.values[one]!;
    attempt.spent += addGains(tuples, gains, chosen, one);
    chosen.push(one);
    if (model.isInvalid[column]?.[value]) invalid += 1;
  };
  row.forEach((value, column) => {
    if (value >= 0) join(column, value);
  });
  total = 0;
  shuffle(attempt);
  for (const isLast of [false, true]) {
    for (const column of attempt.order) {
      if (row[column]! >= 0) continue;
      const value = chooseValue(attempt, row, column, invalid);
      if (gains.values[starts[column]! + value] === 0 && !isLast) continue;
      row[column] = value;
      join(column, value);
    }
  }
  return total;
}

/** The allowed class with the greatest gain; among equals one with tuples left, and a valid one before an invalid one. */
function chooseValue({ model, allowed, tuples, gains, random }: Attempt, row: Row, column: number, invalid: number): number {
  const start = tuples.starts[column]!;
  const flags = model.isInvalid[column];
  const isBound = allowed.isBound(column);
  let [best, bestRank, ties] = [0, -1, 0];
  for (let value = 0; value < model.sizes[column]!; value += 1) {
    const isInvalid = flags?.[value] === true;
    if (isInvalid && invalid > 0) continue;
    const rank = gains.values[start + value]! * 4 + (tuples.needy[start + value]! > 0 ? 2 : 0) + (isInvalid ? 0 : 1);
    if (rank < bestRank || (rank === bestRank && random() * (ties += 1) >= 1)) continue;
    if ((isBound || isInvalid) && !canTake(allowed, row, column, value)) continue;
    if (rank > bestRank) ties = 1;
    [best, bestRank] = [value, rank];
  }
  return best;
}

function canTake(allowed: AllowedRows, row: Row, column: number, value: number): boolean {
  row[column] = value;
  const isFine = allowed.canComplete(row);
  row[column] = -1;
  return isFine;
}

function shuffle({ order, random }: Attempt): void {
  for (let i = order.length - 1; i > 0; i -= 1) {
    const j = Math.floor(random() * (i + 1));
    [order[i], order[j]] = [order[j]!, order[i]!];
  }
}

/** Takes rows out, the first of the new ones first, all of whose tuples other rows have too. The first `kept` stay. Cost O(rows × columns ^ strength). */
function dropSuperfluous(fresh: Tuples, rows: readonly Row[], kept: number): Row[] {
  const tuples = copyTuples(fresh);
  const lean = rows.slice(0, kept);
  for (const row of lean) coverRow(tuples, row);
  // From the last to the first: late rows have few tuples of their own, but those that only they have.
  const taken = rows
    .slice(kept)
    .reverse()
    .filter((row) => tuples.left > 0 && coverRow(tuples, row) > 0)
    .reverse();
  return [...lean, ...taken];
}
