import type { ChainCost, Costs, Reach } from './chain-reach.ts';
import { compareCosts, FROM_OUTSIDE, GOAL } from './chain-reach.ts';

/** Most places that the search visits: some tens of milliseconds. */
const MOST_VISITS = 1_500;

interface Improvement {
  /** Who gives each need of the chosen tests, and the goal. */
  readonly giverOf: ReadonlyMap<number, number>;
  readonly isProved: boolean;
}

/**
 * Branch and bound over who gives what: the need with the fewest givers is decided first, a giver that is in the chain already costs
 * nothing, and every need may come from outside, which costs more than any test. Cut where what is chosen so far and the dearest of the
 * cheapest givers left are no better than the best. A chain whose tests wait for one another in a circle is no chain. Starts from the chain
 * that is there, so it is never worse. Exponential at worst, bounded by visits.
 */
export function improveChain(
  reach: Reach,
  costs: Costs,
  { target, first }: { target: readonly number[]; first: ReadonlyMap<number, number> },
): Improvement {
  const { needsOf, giversOf } = reach;
  const giversFor = (key: number): readonly number[] => (key === GOAL ? target : (giversOf[key] ?? []));
  let best = new Map(first);
  let bestCost = measureChain(reach, first);
  let visits = 0;

  const decide = (giverOf: Map<number, number>, chosen: ReadonlySet<number>, open: readonly number[]): void => {
    visits += 1;
    if (visits > MOST_VISITS) return;
    const waiting = open.filter((key) => !giverOf.has(key));
    const cost = measureChain(reach, giverOf);
    if (waiting.length === 0) {
      if (compareCosts(cost, bestCost) < 0 && !hasCircle(reach, giverOf)) [best, bestCost] = [new Map(giverOf), cost];
      return;
    }
    let dearest = 0;
    let choice: { key: number; givers: readonly number[] } | null = null;
    for (const key of waiting) {
      const givers = giversFor(key);
      dearest = Math.max(dearest, Math.min(...givers.map((giver) => (chosen.has(giver) ? 0 : reach.minutesOf(giver)))));
      if (choice === null || givers.length < choice.givers.length) choice = { key, givers };
    }
    // What is open may come from outside instead of from the dearest, but then that is what it costs.
    const least = cost.outside < bestCost.outside ? cost : { ...cost, minutes: cost.minutes + dearest };
    if (choice === null || compareCosts(least, bestCost) >= 0) return;
    const { key } = choice;
    const rank = (giver: number) => (chosen.has(giver) ? -1 : (costs.ofTest[giver] ?? Infinity));
    for (const giver of [...choice.givers].sort((a, b) => rank(a) - rank(b))) {
      const isNew = !chosen.has(giver);
      decide(new Map(giverOf).set(key, giver), isNew ? new Set([...chosen, giver]) : chosen, [
        ...waiting.filter((each) => each !== key),
        ...(isNew ? (needsOf.get(giver) ?? []) : []),
      ]);
    }
    if (key !== GOAL)
      decide(
        new Map(giverOf).set(key, FROM_OUTSIDE),
        chosen,
        waiting.filter((each) => each !== key),
      );
  };
  decide(new Map(), new Set(), [GOAL]);
  return { giverOf: new Map([...best].filter(([, giver]) => giver >= 0)), isProved: visits <= MOST_VISITS };
}

/** What is chosen costs so far: each value from outside once, each test once. */
function measureChain({ lacksOf, minutesOf }: Reach, giverOf: ReadonlyMap<number, number>): ChainCost {
  const lacks = new Set<string>();
  let [outside, minutes] = [0, 0];
  for (const giver of giverOf.values()) if (giver === FROM_OUTSIDE) outside += 1;
  for (const test of new Set(giverOf.values())) {
    if (test < 0) continue;
    minutes += minutesOf(test);
    for (const lack of lacksOf.get(test) ?? []) lacks.add(lack);
  }
  return { outside, lacks: lacks.size, minutes };
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
      return giver !== undefined && giver >= 0 && visit(giver);
    });
    state.set(index, 'done');
    return isCircle;
  };
  return [...new Set(giverOf.values())].some((giver) => giver >= 0 && visit(giver));
}
