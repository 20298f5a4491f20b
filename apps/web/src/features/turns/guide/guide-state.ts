import { letsOn } from '@kindred-baton/core/outcomes';
import type { AttemptView, GuideView } from '@kindred-baton/contracts/turns/turn';
import type { StepOutcome } from '@kindred-baton/core/outcomes';
import { toNameKey } from '@kindred-baton/core/values/field';

/** What was said of one step so far. */
export interface StepWord {
  readonly outcome: StepOutcome | null;
  readonly note: string;
  /** What was typed for the value that the step keeps. */
  readonly kept: string;
}

type GuideScreen = 'step' | 'all' | 'finish' | 'defect';

export interface GuideState {
  readonly index: number;
  readonly screen: GuideScreen;
  readonly words: Readonly<Record<number, StepWord>>;
}

export type GuideEvent =
  | { readonly kind: 'go'; readonly index: number }
  | { readonly kind: 'show'; readonly screen: GuideScreen }
  | { readonly kind: 'change'; readonly index: number; readonly word: Partial<StepWord> }
  | { readonly kind: 'said'; readonly index: number; readonly word: StepWord; readonly steps: number }
  | { readonly kind: 'restore'; readonly words: Readonly<Record<number, StepWord>> };

const NO_WORD: StepWord = { outcome: null, note: '', kept: '' };

export const getWord = (state: GuideState, index: number): StepWord => state.words[index] ?? NO_WORD;

type Steps = NonNullable<GuideView['version']>['steps'];

/** Where an attempt was left: at its first step without an outcome. */
export function createGuideState(attempt: Pick<AttemptView, 'results' | 'kept'>, steps: Steps): GuideState {
  const kept = new Map(Object.entries(attempt.kept).map(([name, value]) => [toNameKey(name), value]));
  const results = new Map(attempt.results.map((result) => [result.stepIndex, result]));
  const words: Record<number, StepWord> = {};
  steps.forEach((step, index) => {
    const result = results.get(index);
    const value = step.keepAs === undefined ? '' : (kept.get(toNameKey(step.keepAs)) ?? '');
    if (result || value !== '') words[index] = { outcome: result?.outcome ?? null, note: result?.note ?? '', kept: value };
  });
  const open = steps.findIndex((_, index) => (words[index]?.outcome ?? null) === null);
  return { index: open < 0 ? Math.max(0, steps.length - 1) : open, screen: open < 0 && steps.length > 0 ? 'finish' : 'step', words };
}

/** What worked or was left out leads on to the next step; a failure stays, to be told. */
export function reduceGuide(state: GuideState, event: GuideEvent): GuideState {
  switch (event.kind) {
    case 'go':
      return { ...state, index: Math.max(0, event.index), screen: 'step' };
    case 'show':
      return { ...state, screen: event.screen };
    case 'change':
      return { ...state, words: { ...state.words, [event.index]: { ...getWord(state, event.index), ...event.word } } };
    case 'said': {
      const words = { ...state.words, [event.index]: event.word };
      const goesOn = letsOn(event.word.outcome);
      if (!goesOn) return { ...state, words };
      const isLast = event.index >= event.steps - 1;
      return { words, index: isLast ? event.index : event.index + 1, screen: isLast ? 'finish' : 'step' };
    }
    case 'restore':
      return { ...state, words: { ...state.words, ...event.words } };
  }
}

export interface GuideCounts {
  readonly worked: number;
  readonly didNot: number;
  readonly blocked: number;
  readonly leftOut: number;
  readonly open: number;
}

export function countWords(state: GuideState, steps: number): GuideCounts {
  const outcomes = Array.from({ length: steps }, (_, index) => getWord(state, index).outcome);
  const countOf = (outcome: StepOutcome | null) => outcomes.filter((candidate) => candidate === outcome).length;
  return {
    worked: countOf('passed'),
    didNot: countOf('failed'),
    blocked: countOf('blocked'),
    leftOut: countOf('skipped'),
    open: countOf(null),
  };
}
