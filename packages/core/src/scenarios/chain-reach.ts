import { createHeap } from '../graph/heap.ts';
import type { Field } from '../values/field.ts';
import { toNameKey } from '../values/field.ts';
import type { ChainLibrary, ChainTest } from './chain-library.ts';
import { findGivers, toNeedKey } from './chain-library.ts';

/** The goal as a need of its own. */
export const GOAL = -1;
/** In the place of a giver: the value comes from outside the chain. */
export const FROM_OUTSIDE = -2;

/** The part of the library that the goal can draw on. Needs are numbered; tests are named by their index. */
export interface Reach {
  readonly library: ChainLibrary;
  /** Needs of each test in reach that some test gives. */
  readonly needsOf: ReadonlyMap<number, readonly number[]>;
  /** Tests that give each need. */
  readonly giversOf: readonly (readonly number[])[];
  readonly fieldOf: readonly Field[];
  readonly numberOf: ReadonlyMap<string, number>;
  readonly atHand: ReadonlySet<string>;
  /** Needs of each test in reach that nothing gives, and for which its own data row has no value. */
  readonly lacksOf: ReadonlyMap<number, readonly string[]>;
  /** What a test costs; one of another stream than the goal's a trifle more, so that of equals the nearer is taken. */
  readonly minutesOf: (test: number) => number;
}

/** First what tests could give and do not, then what nothing gives, then the minutes. */
export interface ChainCost {
  readonly outside: number;
  readonly lacks: number;
  readonly minutes: number;
}
export const compareCosts = (a: ChainCost, b: ChainCost): number => a.outside - b.outside || a.lacks - b.lacks || a.minutes - b.minutes;

const TRIFLE = 1 / 1_024;

/** Goes back from the targets over all that could give what they need. Cost O(needs and gives in reach). */
export function gatherReach(library: ChainLibrary, targets: readonly number[], atHand: ReadonlySet<string>): Reach {
  const needsOf = new Map<number, number[]>();
  const lacksOf = new Map<number, string[]>();
  const streams = new Set(targets.map((index) => library.tests[index]?.stream));
  const giversOf: number[][] = [];
  const fieldOf: Field[] = [];
  const numberOf = new Map<string, number>();
  const queue = [...targets];
  const toNumber = (need: Field) => {
    const key = toNeedKey(library, need);
    const known = numberOf.get(key);
    if (known !== undefined) return known;
    const givers = findGivers(library, need);
    numberOf.set(key, fieldOf.length);
    fieldOf.push(need);
    for (const giver of givers) queue.push(giver);
    return giversOf.push(givers) - 1;
  };
  for (let head = 0; head < queue.length; head += 1) {
    const index = queue[head] ?? 0;
    if (needsOf.has(index)) continue;
    const own: number[] = [];
    const lacks: string[] = [];
    for (const need of library.tests[index]?.needs ?? []) {
      if (need.required === false || atHand.has(library.toKey(need.name))) continue;
      const number = toNumber(need);
      const isGiven = (giversOf[number]?.length ?? 0) > 0;
      if (isGiven && !own.includes(number)) own.push(number);
      if (!isGiven && findOwnValue(library.tests[index], need) === undefined) lacks.push(library.toKey(need.name));
    }
    needsOf.set(index, own);
    lacksOf.set(index, lacks);
  }
  const minutesOf = (index: number) => (library.tests[index]?.minutes ?? 0) + (streams.has(library.tests[index]?.stream) ? 0 : TRIFLE);
  return { library, needsOf, giversOf, fieldOf, numberOf, atHand, lacksOf, minutesOf };
}

/** The value that a test brings along for a need in its own data row; undefined: none. */
export function findOwnValue(test: ChainTest | undefined, need: Field): string | undefined {
  return Object.entries(test?.ownValues ?? {}).find(([name, value]) => toNameKey(name) === toNameKey(need.name) && value !== '')?.[1];
}

export interface Costs {
  /** The cheapest way to each test, in minutes, with shared tests counted for each branch; Infinity: no way. */
  readonly ofTest: Float64Array;
  /** The test that gives each need most cheaply; -1: none, or only its own takers. */
  readonly giverOf: Int32Array;
}

/** A test that can be made now, and what the way to it costs in minutes. */
interface Entry {
  readonly cost: number;
  readonly item: number;
}

/** What taking a value from outside costs that nothing gives first: more than any chain. */
const OUTSIDE = 1e9;

/** The cheapest way to every test and need in reach (Knuth 1977). Cost O(m log m). */
export function spreadCosts({ library, needsOf, giversOf, lacksOf, minutesOf }: Reach): Costs {
  const count = library.tests.length;
  const ofTest = new Float64Array(count).fill(Infinity);
  const giverOf = new Int32Array(giversOf.length).fill(-1);
  const isSettled = new Uint8Array(giversOf.length);
  const open = new Int32Array(count);
  const sum = new Float64Array(count);
  const takersOf: number[][] = giversOf.map(() => []);
  const givenBy: number[][] = [];
  const heap = createHeap<Entry>((a, b) => a.cost < b.cost);
  const costOf = (index: number) => minutesOf(index) + OUTSIDE * (lacksOf.get(index)?.length ?? 0);
  giversOf.forEach((givers, need) => {
    for (const giver of givers) (givenBy[giver] ??= []).push(need);
  });
  for (const [index, needs] of needsOf) {
    for (const need of needs) takersOf[need]?.push(index);
    open[index] = needs.length;
    if (needs.length === 0) heap.push({ cost: costOf(index), item: index });
  }
  const settle = (need: number, cost: number) => {
    isSettled[need] = 1;
    for (const taker of takersOf[need] ?? []) {
      sum[taker] = (sum[taker] ?? 0) + cost;
      open[taker] = (open[taker] ?? 0) - 1;
      if (open[taker] === 0) heap.push({ cost: (sum[taker] ?? 0) + costOf(taker), item: taker });
    }
  };
  const drain = () => {
    for (let next = heap.pop(); next; next = heap.pop()) {
      if (ofTest[next.item] !== Infinity) continue;
      ofTest[next.item] = next.cost;
      for (const need of givenBy[next.item] ?? []) {
        if (isSettled[need] === 1) continue;
        giverOf[need] = next.item;
        settle(need, next.cost);
      }
    }
  };
  drain();
  // What is left waits in circles: the need that most tests wait for comes from outside, and the rest may follow from it.
  for (let need = findStuck(takersOf, isSettled); need >= 0; need = findStuck(takersOf, isSettled)) {
    settle(need, OUTSIDE);
    drain();
  }
  return { ofTest, giverOf };
}

function findStuck(takersOf: readonly (readonly number[])[], isSettled: Uint8Array): number {
  let most = -1;
  takersOf.forEach((takers, need) => {
    if (isSettled[need] === 0 && takers.length > (takersOf[most]?.length ?? 0)) most = need;
  });
  return most;
}
