import type { Costs, Reach } from './chain-reach.ts';
import { GOAL } from './chain-reach.ts';

/** Most places that the search visits: some tens of milliseconds. */
const MOST_VISITS = 1_500;

interface Improvement {
  /** Who gives each need of the chosen tests, and the goal. */
  readonly giverOf: ReadonlyMap<number, number>;
  readonly isProved: boolean;
}

/**
 * Branch and bound over who gives what: the need with the fewest givers is decided first, a giver that is in the chain already costs
 * nothing. Cut where the tests so far and the dearest of the cheapest givers left are no better than the best. A chain whose tests wait for one
 * another in a circle is no chain. Starts from the chain that is there, so it is never worse. Exponential at worst, bounded by visits.
 */
export function improveChain(
  reach: Reach,
  costs: Costs,
  { target, first }: { target: readonly number[]; first: ReadonlyMap<number, number> },
): Improvement {
  const { library, needsOf, giversOf } = reach;
  const minutesOf = (index: number) => library.tests[index]?.minutes ?? 0;
  const known = new Map<number, readonly number[]>([[GOAL, target]]);
  const reachable = (key: number): readonly number[] => {
    const before = known.get(key);
    if (before) return before;
    const givers = (costs.giverOf[key] ?? -1) >= 0 ? (giversOf[key] ?? []).filter((giver) => costs.ofTest[giver] !== Infinity) : [];
    known.set(key, givers);
    return givers;
  };
  const sum = (chosen: Iterable<number>) => [...new Set(chosen)].reduce((total, index) => total + minutesOf(index), 0);
  let best = new Map(first);
  let bestCost = sum(first.values());
  let visits = 0;

  const decide = (giverOf: Map<number, number>, chosen: ReadonlySet<number>, open: readonly number[], cost: number): void => {
    visits += 1;
    if (visits > MOST_VISITS) return;
    const waiting = open.filter((key) => !giverOf.has(key));
    if (waiting.length === 0) {
      if (cost < bestCost && !hasCircle(reach, giverOf)) [best, bestCost] = [new Map(giverOf), cost];
      return;
    }
    let dearest = 0;
    let choice: { key: number; givers: readonly number[] } | null = null;
    for (const key of waiting) {
      const givers = reachable(key);
      dearest = Math.max(dearest, Math.min(...givers.map((giver) => (chosen.has(giver) ? 0 : minutesOf(giver)))));
      if (choice === null || givers.length < choice.givers.length) choice = { key, givers };
    }
    if (choice === null || cost + dearest >= bestCost) return;
    const { key } = choice;
    const costOf = (giver: number) => (chosen.has(giver) ? -1 : (costs.ofTest[giver] ?? Infinity));
    for (const giver of [...choice.givers].sort((a, b) => costOf(a) - costOf(b))) {
      const isNew = !chosen.has(giver);
      const more = isNew ? (needsOf.get(giver) ?? []).filter((need) => reachable(need).length > 0) : [];
      decide(
        new Map(giverOf).set(key, giver),
        isNew ? new Set([...chosen, giver]) : chosen,
        [...waiting.filter((each) => each !== key), ...more],
        cost + (isNew ? minutesOf(giver) : 0),
      );
    }
  };
  decide(new Map(), new Set(), [GOAL], 0);
  return { giverOf: best, isProved: visits <= MOST_VISITS };
}

/** Whether tests would wait for one another. Cost O(needs). */
function hasCircle({ needsOf }: Reach, giverOf: ReadonlyMap<number, number>): boolean {
  const state = new Map<number, 'open' | 'done'>();
  const visit = (index: number): boolean => {
    if (state.get(index) === 'done') return false;
    if (state.get(index) === 'open') return true;
    state.set(index, 'open');
    const isCircle = (needsOf.get(index) ?? []).some((key) => {
      const giver = giverOf.get(key);
      return giver !== undefined && visit(giver);
    });
    state.set(index, 'done');
    return isCircle;
  };
  return [...new Set(giverOf.values())].some(visit);
}
