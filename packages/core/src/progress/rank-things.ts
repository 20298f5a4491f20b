import { foldWords } from '../screens/capture.ts';
import { findWayIn } from '../tests/find-way-in.ts';
import type { Step } from '../tests/step.ts';
import type { CountedStep } from './rank-steps.ts';
import { getErrors, sumTries } from './rank-steps.ts';
import type { ShareBounds } from './wilson.ts';
import { getWilsonBounds } from './wilson.ts';

/** What errors are ranked by: step by step, or over all steps that name the same thing, or stand on the same screen. */
const RANKING_FACTS = {
  step: { one: 'step', many: 'steps' },
  target: { one: 'field or button', many: 'fields and buttons' },
  screen: { one: 'screen', many: 'screens' },
} as const;
export type Ranking = keyof typeof RANKING_FACTS;
export const RANKINGS = Object.keys(RANKING_FACTS) as [Ranking, ...Ranking[]];
export const getRankingLabel = (ranking: Ranking): (typeof RANKING_FACTS)[Ranking] => RANKING_FACTS[ranking];

/** A thing of an application that steps name. */
export interface NamedThing {
  /** The same for the same thing, whatever its case and spaces. */
  readonly key: string;
  readonly name: string;
  readonly application: string;
}

/** What of a step is needed to say where it stands. */
export type NamingStep = Pick<Step, 'do' | 'target' | 'within'>;

/**
 * What a step is counted under: its own target, or the screen that the steps up to it went to last, by their words; what a press opens is not known from
 * them, and counts there too. `application`: of the test, where the steps do not say it. null: nothing was gone to before it, or it is done by hand.
 */
export function findThing(
  ranking: Exclude<Ranking, 'step'>,
  steps: readonly NamingStep[],
  index: number,
  application: string,
): NamedThing | null {
  const step = steps[index];
  const wayIn = steps[findWayIn(steps, index)];
  if (!step || step.do === 'hand') return null;
  const isPlaced = wayIn?.do === 'go' || wayIn?.do === 'ask';
  if (ranking === 'screen' && !isPlaced) return null;
  const own = (isPlaced ? wayIn.within : undefined) ?? application;
  const name = ranking === 'screen' ? wayIn!.target : step.target;
  return { key: `${foldWords(own)}/${foldWords(name)}`, name, application: own };
}

interface WrongThing extends NamedThing, ShareBounds {
  /** In how many tests it is named, and at how many of their steps that were tried. */
  readonly tests: number;
  readonly steps: number;
  readonly tries: number;
  readonly failed: number;
  readonly blocked: number;
  /** Those of its steps at which something went wrong. */
  readonly wrong: readonly CountedStep[];
}

export interface RankedThings {
  /** Those with errors, the worst first. */
  readonly wrong: readonly WrongThing[];
  readonly things: number;
  /** Errors at steps that are counted under nothing. */
  readonly unplaced: number;
}

/** Things by the lower bound of the share of all tries at them that fail or are blocked, as steps are. Cost O(n log n). */
export function rankThings(steps: readonly CountedStep[], thingOf: (step: CountedStep) => NamedThing | null): RankedThings {
  const byKey = new Map<string, { thing: NamedThing; steps: CountedStep[] }>();
  const unplaced: CountedStep[] = [];
  for (const step of steps) {
    const thing = thingOf(step);
    if (!thing) {
      unplaced.push(step);
      continue;
    }
    const own = byKey.get(thing.key);
    if (own) own.steps.push(step);
    else byKey.set(thing.key, { thing, steps: [step] });
  }
  const wrong = [...byKey.values()]
    .map(({ thing, steps: own }) => ({ thing, own, sums: sumTries(own) }))
    .filter(({ sums }) => getErrors(sums) > 0)
    .map(({ thing, own, sums }): WrongThing => ({
      ...{ ...thing, ...sums, ...getWilsonBounds(getErrors(sums), sums.tries) },
      ...{ tests: new Set(own.map(({ test }) => test)).size, steps: own.length },
      wrong: own.filter((step) => getErrors(step) > 0).sort((a, b) => getErrors(b) - getErrors(a)),
    }))
    .sort((a, b) => b.low - a.low || getErrors(b) - getErrors(a) || (a.key < b.key ? -1 : 1));
  return { wrong, things: byKey.size, unplaced: getErrors(sumTries(unplaced)) };
}
