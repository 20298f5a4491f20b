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
import { toNeedKey } from './chain-library.ts';
import type { Costs, Reach } from './chain-reach.ts';
import { findOwnValue, FROM_OUTSIDE, gatherReach, GOAL, spreadCosts } from './chain-reach.ts';
import { improveChain } from './improve-chain.ts';

export type ChainGoal = { readonly kind: 'test'; readonly code: string } | { readonly kind: 'value'; readonly name: string };

interface FoundLeg {
  readonly test: ChainTest;
  /** Why it is in the chain: the values that later tests (or the goal) take from it. Empty for the goal itself. */
  readonly gives: readonly { readonly value: string; readonly to: string }[];
}

interface MissingValue {
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
  /** Whether every value comes, and it is proved that no chain of these tests is cheaper. */
  readonly isCheapest: boolean;
  /** The streams that it draws on beside the goal's own. */
  readonly otherStreams: readonly string[];
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
  return describeChain(reach, giverOf, goal, isProved);
}

function findTargets(library: ChainLibrary, goal: ChainGoal): number[] {
  if (goal.kind === 'value') return [...new Set((library.giversOf.get(toNameKey(goal.name)) ?? []).map(({ test }) => test))];
  const index = library.byCode.get(goal.code);
  return index === undefined ? [] : [index];
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
      chosen.set(need, giver < 0 ? FROM_OUTSIDE : giver);
      if (giver < 0) continue;
      stack.push(giver);
    }
  }
  return chosen.set(GOAL, target);
}

function describeChain(reach: Reach, giverOf: ReadonlyMap<number, number>, goal: ChainGoal, isCheapest: boolean): FoundChain {
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
  const missing = listMissing(reach, order, giverOf);
  const own = library.tests[target]?.stream;
  return {
    legs,
    minutes: legs.reduce((sum, { test }) => sum + test.minutes, 0),
    missing,
    isCheapest: isCheapest && missing.every((value) => value.own !== null),
    otherStreams: [...new Set(legs.flatMap(({ test: { stream } }) => (stream === undefined || stream === own ? [] : [stream])))],
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
      const own = findOwnValue(test, need);
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
