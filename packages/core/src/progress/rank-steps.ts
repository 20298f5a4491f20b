import { pushTo } from '../push-to.ts';
import type { StepPlace } from './same-steps.ts';
import type { ShareBounds } from './wilson.ts';
import { getWilsonBounds } from './wilson.ts';

/** Tries of one step of one version, and how they ended. */
export interface CountedStep extends StepPlace {
  readonly test: string;
  readonly tries: number;
  readonly failed: number;
  readonly blocked: number;
}

/** A step at which something went wrong, and how likely it does. */
export interface WrongStep extends CountedStep, ShareBounds {}

export interface RankedSteps {
  /** Those with errors, the worst first. */
  readonly wrong: readonly WrongStep[];
  /** How many steps were tried at all, how often, and with how many errors. */
  readonly steps: number;
  readonly tries: number;
  readonly errors: number;
}

export const getErrors = ({ failed, blocked }: Pick<CountedStep, 'failed' | 'blocked'>): number => failed + blocked;

type Tries = Pick<CountedStep, 'tries' | 'failed' | 'blocked'>;

/** The tries of some steps together. */
export function sumTries(own: readonly Tries[]): Tries {
  const sumOf = (of: keyof Tries) => own.reduce((sum, step) => sum + step[of], 0);
  return { tries: sumOf('tries'), failed: sumOf('failed'), blocked: sumOf('blocked') };
}

/** Every step that was tried, once, where it stands last (`placeOf`). Cost O(n). */
export function sumSteps(counted: readonly CountedStep[], placeOf: (step: StepPlace) => StepPlace): CountedStep[] {
  const byPlace = new Map<string, CountedStep[]>();
  for (const step of counted) {
    const place = placeOf(step);
    pushTo(byPlace, `${place.version} ${place.index}`, { ...step, ...place });
  }
  return [...byPlace.values()].map((own) => ({ ...own[0]!, ...sumTries(own) }));
}

/**
 * Steps by what they cost at least: by the lower bound of the share of their tries that fail or are blocked, then by the number of those. Counts of a step that
 * stands in several versions are one (`placeOf`). Cost O(n log n).
 */
export function rankSteps(counted: readonly CountedStep[], placeOf: (step: StepPlace) => StepPlace): RankedSteps {
  const steps = sumSteps(counted, placeOf);
  const wrong = steps
    .filter((step) => getErrors(step) > 0)
    .map((step): WrongStep => ({ ...step, ...getWilsonBounds(getErrors(step), step.tries) }))
    .sort((a, b) => b.low - a.low || getErrors(b) - getErrors(a) || (a.test < b.test ? -1 : a.test > b.test ? 1 : a.index - b.index));
  return {
    wrong,
    steps: steps.length,
    tries: sumTries(counted).tries,
    errors: wrong.reduce((sum, step) => sum + getErrors(step), 0),
  };
}
