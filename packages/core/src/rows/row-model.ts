/**
 * Data rows from classes: for each input its classes of values, and rows that let every pair (or triple) of classes meet.
 * A combination is written as the class chosen for each column, -1 where none is chosen.
 */
export const CLASS_KINDS = ['valid', 'invalid', 'must-have'] as const;
export type ClassKind = (typeof CLASS_KINDS)[number];

export interface RowClass {
  /** The value that stands for the class. */
  readonly value: string;
  /** A row has at most one invalid class, so that one refusal cannot hide another (common practice, no source). */
  readonly kind: ClassKind;
}

export interface ClassColumn {
  readonly name: string;
  readonly classes: readonly RowClass[];
}

/** Values by column name: a forbidden combination, a must-have row, or a row that stays. */
export type Combination = Readonly<Record<string, string>>;

/** Pairs or triples. */
type Strength = 2 | 3;

export interface ClassSetup {
  readonly strength: Strength;
  readonly columns: readonly ClassColumn[];
  readonly forbidden: readonly Combination[];
  readonly mustHave: readonly Combination[];
}

/** The setup in numbers. */
export interface RowModel {
  readonly strength: number;
  readonly sizes: readonly number[];
  /** Per column and class: whether it is invalid. */
  readonly isInvalid: readonly (readonly boolean[])[];
  /** Forbidden combinations as (column, class) pairs, each at least one. */
  readonly forbidden: readonly (readonly (readonly [column: number, value: number])[])[];
}

export type Row = Int16Array;

/** Why rows cannot be made, in a sentence. */
export interface RowProblem {
  readonly ok: false;
  readonly message: string;
}
