/**
 * Counting turns (design: outcome, Tally): by status, over any two facets and over the whole process tree, in one pass.
 * Turns are held as columns of small whole numbers, coded once when they are loaded; a tally then touches each turn once
 * and one changed turn updates every total in O(depth of the tree).
 */
import type { TurnStatus } from '../outcomes.ts';
import { TURN_STATUSES } from '../outcomes.ts';

export const STATUS_COUNT = TURN_STATUSES.length;

/** Counts by status, in the order of TURN_STATUSES. */
export type Counts = Readonly<Record<TurnStatus, number>>;

/** One facet of the turns: for each turn the code of its value, and the values that the codes stand for. */
export interface Facet {
  readonly codes: Int32Array;
  readonly values: readonly string[];
}

export interface TurnSheet {
  readonly size: number;
  readonly status: Uint8Array;
  /** For each turn, its node's place in `parents`. */
  readonly node: Int32Array;
  /** For each node, its parent's place, always smaller than its own; −1 at the top. */
  readonly parents: Int32Array;
}

/** Codes one facet: values are numbered in order of first appearance, or as given in `known`. Cost O(turns). */
export function codeFacet(values: readonly string[], known: readonly string[] = []): Facet {
  const codeOf = new Map(known.map((value, code) => [value, code]));
  const codes = new Int32Array(values.length);
  for (let i = 0; i < values.length; i += 1) {
    const value = values[i] ?? '';
    let code = codeOf.get(value);
    if (code === undefined) codeOf.set(value, (code = codeOf.size));
    codes[i] = code;
  }
  return { codes, values: [...codeOf.keys()] };
}

export function codeStatuses(statuses: readonly TurnStatus[]): Uint8Array {
  const codeOf = new Map(TURN_STATUSES.map((status, code) => [status, code]));
  return Uint8Array.from(statuses, (status) => codeOf.get(status) ?? 0);
}

/** Whole numbers where turns are counted (half the memory, twice the speed), others where they are weighed. */
type Totals = Int32Array | Float64Array;

export interface Tally {
  readonly rows: Facet;
  readonly columns: Facet;
  readonly sheet: TurnSheet;
  /** [row][column][status], flat. */
  readonly cells: Totals;
  /** [node][status], flat; a node's counts are the sums over its subtree. */
  readonly nodes: Totals;
  /** What one turn counts: 1, or its minutes. */
  readonly weights: Float64Array | null;
}

/** Tallies all turns over two facets and the tree. Cost O(turns + rows × columns + nodes). */
export function tallyTurns(sheet: TurnSheet, facets: { rows: Facet; columns: Facet }, weights: Float64Array | null = null): Tally {
  const { rows, columns } = facets;
  const Kind = weights ? Float64Array : Int32Array;
  const cells = new Kind(rows.values.length * columns.values.length * STATUS_COUNT);
  const nodes = new Kind(sheet.parents.length * STATUS_COUNT);
  const tally: Tally = { rows, columns, sheet, cells, nodes, weights };
  countAll(tally);
  return tally;
}

/** Counts everything again, into the arrays that the tally has already (mutates it): twice as fast as a new tally. */
export function recountTally(tally: Tally): void {
  tally.cells.fill(0);
  tally.nodes.fill(0);
  countAll(tally);
}

function countAll(tally: Tally): void {
  if (tally.weights) countWeighted(tally, tally.weights);
  else countPlain(tally);
  sumUpTree(tally.nodes, tally.sheet.parents);
}

/** Math.imul keeps the places whole numbers for the compiler: it is worth a third of the time. */
function countPlain({ rows, columns, sheet, cells, nodes }: Tally): void {
  const width = columns.values.length;
  const { status, node, size } = sheet;
  const [row, column] = [rows.codes, columns.codes];
  for (let i = 0; i < size; i += 1) {
    const s = status[i]!;
    cells[Math.imul(Math.imul(row[i]!, width) + column[i]!, STATUS_COUNT) + s]! += 1;
    nodes[Math.imul(node[i]!, STATUS_COUNT) + s]! += 1;
  }
}

function countWeighted({ rows, columns, sheet, cells, nodes }: Tally, weights: Float64Array): void {
  const width = columns.values.length;
  const { status, node, size } = sheet;
  for (let i = 0; i < size; i += 1) {
    const s = status[i]!;
    const weight = weights[i]!;
    cells[(rows.codes[i]! * width + columns.codes[i]!) * STATUS_COUNT + s]! += weight;
    nodes[node[i]! * STATUS_COUNT + s]! += weight;
  }
}

/** Children come after their parents, so one pass from the end carries every count to the top. */
function sumUpTree(nodes: Totals, parents: Int32Array): void {
  for (let node = parents.length - 1; node >= 0; node -= 1) {
    const parent = parents[node]!;
    if (parent < 0) continue;
    for (let s = 0; s < STATUS_COUNT; s += 1) nodes[parent * STATUS_COUNT + s]! += nodes[node * STATUS_COUNT + s]!;
  }
}

/** Changes one turn's status in the sheet and in every total (mutates both). Cost O(depth of the tree). */
export function changeTurnStatus(tally: Tally, turn: number, status: TurnStatus): void {
  const { rows, columns, sheet, cells, nodes } = tally;
  const from = sheet.status[turn]!;
  const to = TURN_STATUSES.indexOf(status);
  const weight = tally.weights?.[turn] ?? 1;
  const cell = (rows.codes[turn]! * columns.values.length + columns.codes[turn]!) * STATUS_COUNT;
  cells[cell + from]! -= weight;
  cells[cell + to]! += weight;
  for (let node = sheet.node[turn]!; node >= 0; node = sheet.parents[node]!) {
    nodes[node * STATUS_COUNT + from]! -= weight;
    nodes[node * STATUS_COUNT + to]! += weight;
  }
  sheet.status[turn] = to;
}

/** The counts of one cell (`tally.cells`, row × columns + column) or node (`tally.nodes`, node). */
export function getCounts(flat: Totals, place: number): Counts {
  return Object.fromEntries(TURN_STATUSES.map((status, s) => [status, flat[place * STATUS_COUNT + s] ?? 0])) as Record<TurnStatus, number>;
}

export const NO_COUNTS: Counts = Object.fromEntries(TURN_STATUSES.map((status) => [status, 0])) as Record<TurnStatus, number>;

export function addCounts(a: Counts, b: Counts): Counts {
  return Object.fromEntries(TURN_STATUSES.map((status) => [status, a[status] + b[status]])) as Record<TurnStatus, number>;
}

export function sumCounts(counts: Counts): number {
  return TURN_STATUSES.reduce((sum, status) => sum + counts[status], 0);
}

/** Run share, (passed + failed) / (all − skipped), 0 to 1; null where nothing is to be run. */
export function getRunShare(counts: Counts): number | null {
  const toRun = sumCounts(counts) - counts.skipped;
  return toRun > 0 ? (counts.passed + counts.failed) / toRun : null;
}

/** Pass share, passed / (passed + failed), 0 to 1; null where nothing was run. */
export function getPassShare(counts: Counts): number | null {
  const run = counts.passed + counts.failed;
  return run > 0 ? counts.passed / run : null;
}
