/**
 * The cheapest chain of tests that reaches a goal. Tests are hyperedges from all that they need to all that they give; the cheapest way to
 * each value follows from Knuth's generalisation of Dijkstra's algorithm (D. E. Knuth, “A generalization of Dijkstra's algorithm”, Information
 * Processing Letters 6, 1977). Its costs count a test twice that two branches share, so an exact search by branch and bound over the tests in
 * reach improves the chain afterwards, within a bound of visited places. Cost O(m log m) for m needs and gives in reach, and the bound.
 */
import { pushTo } from '../push-to.ts';
import type { Field } from '../values/field.ts';
import { toNameKey } from '../values/field.ts';
import type { ChainLibrary, ChainTest } from './chain-library.ts';
import { findGivers, toNeedKey } from './chain-library.ts';
import { improveChain } from './improve-chain.ts';

export type ChainGoal = { readonly kind: 'test'; readonly code: string } | { readonly kind: 'value'; readonly name: string };

export interface FoundLeg {
  readonly test: ChainTest;
  /** Why it is in the chain: the values that later tests (or the goal) take from it. Empty for the goal itself. */
  readonly gives: readonly { readonly value: string; readonly to: string }[];
}

export interface MissingValue {
  readonly need: Field;
  /** Codes of the tests in the chain that need it. */
  readonly neededBy: readonly string[];
  /** Nothing gives it; or whatever gives it needs it first. */
  readonly why: 'nothing gives it' | 'only what needs it gives it';
  /** The test's own data row has a value for it. */
  readonly own: string | null;
}

export interface FoundChain {
  /** In an order in which every value is there when it is needed. */
  readonly legs: readonly FoundLeg[];
  readonly minutes: number;
  readonly missing: readonly MissingValue[];
  /** Whether it is proved that no chain of these tests is cheaper. */
  readonly isCheapest: boolean;
}

/** Finds the chain; undefined when no test is, or gives, the goal. `atHand` names values that are there without a test. */
export function findChain(library: ChainLibrary, goal: ChainGoal, atHand: readonly string[] = []): FoundChain | undefined {
  const targets = findTargets(library, goal);
  if (targets.length === 0) return undefined;
  const reach = gatherReach(library, targets, new Set(atHand.map(toNameKey)));
  const costs = spreadCosts(reach);
  const target = targets.reduce((best, each) => ((costs.ofTest[each] ?? 0) < (costs.ofTest[best] ?? 0) ? each : best));
  const first = gatherChosen(reach, costs, target);
  const { giverOf, isProved } = improveChain(reach, costs, { target: goal.kind === 'test' ? [target] : targets, first });
  return describeChain(reach, costs, giverOf, goal, isProved);
}

function findTargets(library: ChainLibrary, goal: ChainGoal): number[] {
  if (goal.kind === 'value') return [...new Set((library.giversOf.get(toNameKey(goal.name)) ?? []).map(({ test }) => test))];
  const index = library.byCode.get(goal.code);
  return index === undefined ? [] : [index];
}

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
}

function gatherReach(library: ChainLibrary, targets: readonly number[], atHand: ReadonlySet<string>): Reach {
  const needsOf = new Map<number, number[]>();
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
    for (const need of library.tests[index]?.needs ?? []) {
      if (need.required === false || atHand.has(library.toKey(need.name))) continue;
      const number = toNumber(need);
      if ((giversOf[number]?.length ?? 0) > 0 && !own.includes(number)) own.push(number);
    }
    needsOf.set(index, own);
  }
  return { library, needsOf, giversOf, fieldOf, numberOf, atHand };
}

export interface Costs {
  /** The cheapest way to each test, in minutes, with shared tests counted for each branch; Infinity: no way. */
  readonly ofTest: Float64Array;
  /** The test that gives each need most cheaply; -1: none, or only its own takers. */
  readonly giverOf: Int32Array;
}

/** What taking a value from outside costs that nothing gives first: more than any chain. */
const OUTSIDE = 1e9;

function spreadCosts({ library, needsOf, giversOf }: Reach): Costs {
  const count = library.tests.length;
  const ofTest = new Float64Array(count).fill(Infinity);
  const giverOf = new Int32Array(giversOf.length).fill(-1);
  const isSettled = new Uint8Array(giversOf.length);
  const open = new Int32Array(count);
  const sum = new Float64Array(count);
  const takersOf: number[][] = giversOf.map(() => []);
  const givenBy: number[][] = [];
  const heap = createHeap();
  const minutesOf = (index: number) => library.tests[index]?.minutes ?? 0;
  giversOf.forEach((givers, need) => {
    for (const giver of givers) (givenBy[giver] ??= []).push(need);
  });
  for (const [index, needs] of needsOf) {
    for (const need of needs) takersOf[need]?.push(index);
    open[index] = needs.length;
    if (needs.length === 0) heap.push(minutesOf(index), index);
  }
  const settle = (need: number, cost: number) => {
    isSettled[need] = 1;
    for (const taker of takersOf[need] ?? []) {
      sum[taker] = (sum[taker] ?? 0) + cost;
      open[taker] = (open[taker] ?? 0) - 1;
      if (open[taker] === 0) heap.push((sum[taker] ?? 0) + minutesOf(taker), taker);
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

interface Entry {
  readonly cost: number;
  readonly item: number;
}

/** A binary heap, the cheapest first. */
function createHeap() {
  const entries: Entry[] = [];
  const isBefore = (a: number, b: number) => (entries[a]?.cost ?? 0) < (entries[b]?.cost ?? 0);
  const swap = (a: number, b: number) => {
    const [x, y] = [entries[a], entries[b]];
    if (x && y) [entries[a], entries[b]] = [y, x];
  };
  const push = (cost: number, item: number) => {
    let at = entries.push({ cost, item }) - 1;
    for (let up = (at - 1) >> 1; at > 0 && isBefore(at, up); at = up, up = (at - 1) >> 1) swap(at, up);
  };
  const pop = (): Entry | undefined => {
    const first = entries[0];
    const last = entries.pop();
    if (!last || entries.length === 0) return first;
    entries[0] = last;
    for (let at = 0; ;) {
      const [left, right] = [2 * at + 1, 2 * at + 2];
      let least = at;
      if (left < entries.length && isBefore(left, least)) least = left;
      if (right < entries.length && isBefore(right, least)) least = right;
      if (least === at) return first;
      swap(at, least);
      at = least;
    }
  };
  return { push, pop };
}

/** The givers that the costs chose, from the target backwards. */
function gatherChosen({ needsOf }: Reach, { giverOf }: Costs, target: number): Map<number, number> {
  const chosen = new Map<number, number>();
  const seen = new Set<number>();
  const stack = [target];
  for (let index = stack.pop(); index !== undefined; index = stack.pop()) {
    if (seen.has(index)) continue;
    seen.add(index);
    for (const need of needsOf.get(index) ?? []) {
      const giver = giverOf[need] ?? -1;
      if (giver < 0) continue;
      chosen.set(need, giver);
      stack.push(giver);
    }
  }
  return chosen.set(GOAL, target);
}

/** The goal as a need of its own. */
export const GOAL = -1;

function describeChain(reach: Reach, costs: Costs, giverOf: ReadonlyMap<number, number>, goal: ChainGoal, isCheapest: boolean): FoundChain {
  const { library, needsOf, fieldOf } = reach;
  const target = giverOf.get(GOAL) ?? 0;
  const order: number[] = [];
  const seen = new Set<number>();
  const visit = (index: number) => {
    if (seen.has(index)) return;
    seen.add(index);
    for (const key of needsOf.get(index) ?? []) {
      const giver = giverOf.get(key);
      if (giver !== undefined) visit(giver);
    }
    order.push(index);
  };
  visit(target);
  const gives = new Map<number, { value: string; to: string }[]>();
  const codeOf = (index: number) => library.tests[index]?.code ?? '';
  for (const index of order) {
    for (const key of needsOf.get(index) ?? []) {
      const giver = giverOf.get(key);
      if (giver !== undefined) pushTo(gives, giver, { value: fieldOf[key]?.name ?? '', to: codeOf(index) });
    }
  }
  if (goal.kind === 'value') pushTo(gives, target, { value: goal.name, to: 'the goal' });
  const legs = order.flatMap((index) => {
    const test = library.tests[index];
    return test ? [{ test, gives: gives.get(index) ?? [] }] : [];
  });
  return {
    legs,
    minutes: legs.reduce((sum, { test }) => sum + test.minutes, 0),
    missing: listMissing(reach, order, giverOf),
    isCheapest: isCheapest && order.every((index) => (costs.ofTest[index] ?? 0) < OUTSIDE),
  };
}

function listMissing(
  { library, atHand, giversOf, numberOf }: Reach,
  order: readonly number[],
  giverOf: ReadonlyMap<number, number>,
): MissingValue[] {
  const found = new Map<number, { need: Field; neededBy: string[]; why: MissingValue['why']; own: string | null }>();
  for (const index of order) {
    const test = library.tests[index];
    for (const need of test?.needs ?? []) {
      if (need.required === false || atHand.has(library.toKey(need.name))) continue;
      const key = numberOf.get(toNeedKey(library, need));
      if (!test || key === undefined || giverOf.has(key)) continue;
      const own = Object.entries(test.ownValues).find(([name, value]) => toNameKey(name) === toNameKey(need.name) && value !== '')?.[1];
      const known = found.get(key);
      if (known) known.neededBy.push(test.code);
      else {
        const why = giversOf[key]?.length === 0 ? 'nothing gives it' : 'only what needs it gives it';
        found.set(key, { need, neededBy: [test.code], why, own: own ?? null });
      }
    }
  }
  return [...found.values()];
}
