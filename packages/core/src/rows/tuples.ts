import type { AllowedRows } from './allowed-rows.ts';
import type { Row, RowModel } from './row-model.ts';

/** Most bytes that the tuples may take: 100 columns of 6 classes as triples take 108 million. */
const MOST_BYTES = 400_000_000;
/** A gain of pairs is a byte. */
const MOST_COLUMNS = 250;
const WORD = 4;

/**
 * The pairs (or triples) of classes that are still to meet in a row. Mutable. Classes are numbered through all columns. A pair stands in
 * both its classes' lines, a triple in the lines of its three pairs, so that a class that joins a row adds whole lines to the gains.
 */
export interface Tuples {
  readonly strength: number;
  /** How many had to meet at first. */
  readonly total: number;
  left: number;
  /** Number of the first class of each column, and behind the last the number of all classes. */
  readonly starts: Int32Array;
  /** Lines of one byte a class: 1 while the tuple is still to be covered. */
  readonly isLeft: Uint8Array;
  /** The same lines, four classes at a time. */
  readonly words: Uint32Array;
  /** The length of a line: the number of classes, made up to whole words of four bytes. */
  readonly stride: number;
  /** Tuples left for each class. */
  readonly needy: Int32Array;
  /** The most tuples that one set of columns has: each row covers one of them. */
  readonly mostOfOneSet: number;
}

function toStarts(sizes: readonly number[]): Int32Array {
  const starts = new Int32Array(sizes.length + 1);
  sizes.forEach((size, column) => (starts[column + 1] = (starts[column] ?? 0) + size));
  return starts;
}

const toStride = (classes: number) => Math.ceil(classes / WORD) * WORD;

/** How many bytes the tuples of a model take, to be asked before they are made. */
function countBytes({ strength, sizes }: RowModel): number {
  const classes = sizes.reduce((sum, size) => sum + size, 0);
  return (strength === 2 ? classes : (classes * (classes - 1)) / 2) * toStride(classes);
}

/** Why so many columns and classes are not counted, or null. */
export function findTooLarge(model: RowModel): string | null {
  if (model.sizes.length > MOST_COLUMNS) return `These are ${model.sizes.length} columns; rows are made for at most ${MOST_COLUMNS}.`;
  if (countBytes(model) <= MOST_BYTES) return null;
  return 'These are too many classes to let every three of them meet. Let every pair meet, or make rows for fewer columns.';
}

/** The line of a pair of classes, p < q. */
const toPair = (p: number, q: number, classes: number) => p * classes - (p * (p + 1)) / 2 + (q - p - 1);

/** All tuples that an allowed row can have. Cost O(tuples). */
export function createTuples(model: RowModel, allowed: AllowedRows): Tuples {
  const { sizes, strength } = model;
  const starts = toStarts(sizes);
  const classes = starts[sizes.length]!;
  const stride = toStride(classes);
  const isLeft = new Uint8Array(countBytes(model));
  const needy = new Int32Array(classes);
  const row: Row = new Int16Array(sizes.length).fill(-1);
  const isLoose = sizes.map((_, column) => !allowed.isBound(column) && !model.isInvalid[column]?.some(Boolean));
  let [total, most] = [0, 0];

  const fill = (columns: readonly number[]) => {
    let own = 0;
    const isSafe = columns.every((column) => isLoose[column]);
    const visit = (at: number) => {
      const column = columns[at];
      if (column === undefined) {
        if (!isSafe && !allowed.canComplete(row)) return;
        own += 1;
        mark(
          { isLeft, stride, classes },
          columns.map((each) => starts[each]! + row[each]!),
          1,
        );
        for (const each of columns) needy[starts[each]! + row[each]!]! += 1;
        return;
      }
      for (let value = 0; value < sizes[column]!; value += 1) {
        row[column] = value;
        visit(at + 1);
      }
      row[column] = -1;
    };
    visit(0);
    total += own;
    most = Math.max(most, own);
  };
  for (let a = 0; a < sizes.length; a += 1) {
    for (let b = a + 1; b < sizes.length; b += 1) {
      if (strength === 2) fill([a, b]);
      else for (let c = b + 1; c < sizes.length; c += 1) fill([a, b, c]);
    }
  }
  return { strength, total, left: total, starts, isLeft, words: new Uint32Array(isLeft.buffer), stride, needy, mostOfOneSet: most };
}

/** Writes a tuple into all its lines; its classes ascend. */
function mark({ isLeft, stride, classes }: Lines, [p, q, r]: readonly number[], value: number): void {
  if (r === undefined) {
    isLeft[p! * stride + q!] = value;
    isLeft[q! * stride + p!] = value;
    return;
  }
  isLeft[toPair(p!, q!, classes) * stride + r] = value;
  isLeft[toPair(p!, r, classes) * stride + q!] = value;
  isLeft[toPair(q!, r, classes) * stride + p!] = value;
}

interface Lines {
  readonly isLeft: Uint8Array;
  readonly stride: number;
  readonly classes: number;
}

export function copyTuples(tuples: Tuples): Tuples {
  const isLeft = tuples.isLeft.slice();
  return { ...tuples, isLeft, words: new Uint32Array(isLeft.buffer), needy: tuples.needy.slice() };
}

/** Takes the tuples of a row from those left; how many were new. Cost O(columns ^ strength). */
export function coverRow(tuples: Tuples, row: Row): number {
  const { isLeft, needy, starts, strength, stride } = tuples;
  const classes = needy.length;
  const lines = { isLeft, stride, classes };
  const own: number[] = [];
  for (let column = 0; column < row.length; column += 1) if (row[column]! >= 0) own.push(starts[column]! + row[column]!);
  let covered = 0;
  for (let i = 0; i < own.length; i += 1) {
    const p = own[i]!;
    for (let j = i + 1; j < own.length; j += 1) {
      const q = own[j]!;
      if (strength === 2) {
        if (isLeft[p * stride + q] === 0) continue;
        covered += 1;
        needy[p]! -= 1;
        needy[q]! -= 1;
        mark(lines, [p, q], 0);
        continue;
      }
      const line = toPair(p, q, classes) * stride;
      for (let k = j + 1; k < own.length; k += 1) {
        const r = own[k]!;
        if (isLeft[line + r] === 0) continue;
        covered += 1;
        needy[p]! -= 1;
        needy[q]! -= 1;
        needy[r]! -= 1;
        mark(lines, [p, q, r], 0);
      }
    }
  }
  tuples.left -= covered;
  return covered;
}

/** What each class would add to the row that is being made. Mutable. */
export interface Gains {
  readonly values: Uint8Array | Int32Array;
  readonly bytes: Uint8Array;
  /** The same bytes, four at a time. */
  readonly words: Uint32Array;
}

export function createGains({ stride, strength }: Tuples): Gains {
  const bytes = new Uint8Array(stride);
  return { bytes, words: new Uint32Array(bytes.buffer), values: strength === 2 ? bytes : new Int32Array(stride) };
}

/**
 * Adds what each class gains by a class that joins those `chosen`. Lines are added four classes at a time: a sum of at most 250 ones
 * stays within its byte. Cost O(classes / 4), for triples × chosen; returned.
 */
export function addGains(tuples: Tuples, gains: Gains, chosen: readonly number[], joins: number): number {
  const { needy, stride, strength } = tuples;
  if (strength === 2) {
    addLine(gains.words, tuples, joins);
    return stride;
  }
  const classes = needy.length;
  gains.words.fill(0);
  for (let i = 0; i < chosen.length; i += 1) {
    const other = chosen[i]!;
    addLine(gains.words, tuples, other < joins ? toPair(other, joins, classes) : toPair(joins, other, classes));
  }
  const { values, bytes } = gains;
  for (let i = 0; i < classes; i += 1) values[i]! += bytes[i]!;
  return stride * (chosen.length + 4);
}

function addLine(sum: Uint32Array, { words, stride }: Tuples, line: number): void {
  const start = (line * stride) / WORD;
  for (let i = 0; i < sum.length; i += 1) sum[i]! += words[start + i]!;
}

/** A tuple that is still left, of the given class; its classes, that class first. Null when it has none. */
export function findLeft({ isLeft, needy, stride, strength }: Tuples, first: number, random: () => number): number[] | null {
  const classes = needy.length;
  if (strength === 2) {
    const other = findInLine(isLeft, first * stride, classes, random);
    return other < 0 ? null : [first, other];
  }
  const start = Math.floor(random() * classes);
  for (let i = 0; i < classes; i += 1) {
    const second = (start + i) % classes;
    if (second === first) continue;
    const pair = first < second ? toPair(first, second, classes) : toPair(second, first, classes);
    const third = findInLine(isLeft, pair * stride, classes, random);
    if (third >= 0) return [first, second, third];
  }
  return null;
}

function findInLine(isLeft: Uint8Array, line: number, classes: number, random: () => number): number {
  const start = Math.floor(random() * classes);
  for (let i = 0; i < classes; i += 1) {
    const at = (start + i) % classes;
    if (isLeft[line + at] === 1) return at;
  }
  return -1;
}
