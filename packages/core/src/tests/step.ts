import type { StepCheck } from './step-checks.ts';
import { getCheckFacts, MOST_SECONDS } from './step-checks.ts';

interface StepActionFacts {
  /** How it is printed, in tables and at the head of a sentence. */
  readonly word: string;
  /** With which words it is read; the longest that fits wins, so `click on` is tried before `click`. */
  readonly verbs: readonly string[];
  /** The word before its value. */
  readonly valueWord: 'with' | 'showing';
  /** It is in people's own words: shown as it stands, and no machine can do it. */
  readonly isByHand: boolean;
}

/** What a step of a transaction test does to a named thing. A row here is all that another action takes. */
const ACTION_FACTS = {
  go: { word: 'Go to', verbs: ['go to', 'go', 'open', 'navigate to', 'start', 'switch to', 'visit'], valueWord: 'with', isByHand: false },
  fill: { word: 'Fill', verbs: ['fill in', 'fill', 'enter', 'type', 'write', 'set', 'key in'], valueWord: 'with', isByHand: false },
  pick: { word: 'Pick', verbs: ['pick', 'select', 'choose'], valueWord: 'with', isByHand: false },
  press: { word: 'Press', verbs: ['press', 'click on', 'click', 'tap on', 'tap', 'push', 'submit'], valueWord: 'with', isByHand: false },
  see: {
    ...{ word: 'See', valueWord: 'showing', isByHand: false },
    verbs: ['see that', 'see', 'check that', 'check', 'verify that', 'verify', 'confirm that', 'make sure that', 'expect'],
  },
  keep: {
    ...{ word: 'Keep', valueWord: 'with', isByHand: false },
    verbs: ['keep', 'read', 'note down', 'note', 'remember', 'write down', 'record'],
  },
  wait: { word: 'Wait for', verbs: ['wait for', 'wait until', 'wait'], valueWord: 'with', isByHand: false },
  ask: { word: 'Ask', verbs: ['ask'], valueWord: 'with', isByHand: false },
  hand: { word: 'By hand', verbs: ['by hand'], valueWord: 'with', isByHand: true },
} as const satisfies Readonly<Record<string, StepActionFacts>>;
export type StepAction = keyof typeof ACTION_FACTS;
export const STEP_ACTIONS = Object.keys(ACTION_FACTS) as [StepAction, ...StepAction[]];
export const getActionFacts = (action: StepAction): StepActionFacts => ACTION_FACTS[action];

export interface Step {
  readonly do: StepAction;
  /** The thing's name as it stands on the screen; for *ask*, the question (doors/read-question.ts); for *hand*, what is to be done, in people's own words. */
  readonly target: string;
  /** The part of the screen, or the application, that holds it; for *ask*, the door. */
  readonly within?: string | undefined;
  /** What stands next to it, where the name alone is not enough. */
  readonly beside?: string | undefined;
  /** A template (values/template.ts). */
  readonly value?: string | undefined;
  /** Of *see* and *wait*: what is said of the thing; left out, that it is there, or shows the value. */
  readonly check?: StepCheck | undefined;
  /** Of *see* and *wait*: how long it may take until it holds. */
  readonly seconds?: number | undefined;
  /** What you should see afterwards; a template too. */
  readonly expect?: string | undefined;
  /** The name under which what is seen is kept and handed on. */
  readonly keepAs?: string | undefined;
  readonly optional?: boolean | undefined;
  /** The persona that does it. */
  readonly as?: string | undefined;
}

const UNFOLDED = / {2}|[^\S ]/;

/** White space folded to single blanks, none at the ends. Most texts are so already. */
export function foldSpace(text: string): string {
  const isFolded = text.charCodeAt(0) !== 32 && text.charCodeAt(text.length - 1) !== 32 && !UNFOLDED.test(text);
  return isFolded ? text : text.replace(/\s+/g, ' ').trim();
}

const TEXTS = ['within', 'beside', 'value', 'expect', 'as'] as const;

/** A name without braces. */
function toKeptName(text: string | undefined): string {
  return text === undefined ? '' : foldSpace(text.replace(/[{}]/g, ''));
}

/** A check that compares needs something to compare with; one that does not has no value. */
function normalizeCheck({ check, seconds }: Step, kept: { -readonly [Key in keyof Step]: Step[Key] }): void {
  if (check !== undefined && (kept.value !== undefined || !getCheckFacts(check).takesValue)) kept.check = check;
  if (kept.check !== undefined && !getCheckFacts(kept.check).takesValue) delete kept.value;
  if (seconds !== undefined && Number.isInteger(seconds) && seconds > 0) kept.seconds = Math.min(seconds, MOST_SECONDS);
}

/**
 * The one form of a step: white space folded, empty parts left out, `optional` only when true, a kept name without
 * braces; what a *keep* step reads is kept under its own name unless another is given.
 */
export function normalizeStep(step: Step): Step {
  const kept: { -readonly [Key in keyof Step]: Step[Key] } = { do: step.do, target: foldSpace(step.target) };
  for (const key of TEXTS) {
    const text = step[key];
    if (text === undefined || text === '') continue;
    const folded = foldSpace(text);
    if (folded !== '') kept[key] = folded;
  }
  const keepAs = toKeptName(step.keepAs) || (step.do === 'keep' ? toKeptName(step.target) : '');
  if (keepAs !== '') kept.keepAs = keepAs;
  if (step.optional) kept.optional = true;
  if (step.do === 'see' || step.do === 'wait') normalizeCheck(step, kept);
  return kept;
}
