/**
 * What a step of a transaction test does to a named thing. *Hand* is a step in people's own words: it is shown as it stands, and
 * no machine can do it.
 */
export const STEP_ACTIONS = ['go', 'fill', 'pick', 'press', 'see', 'keep', 'wait', 'hand'] as const;
export type StepAction = (typeof STEP_ACTIONS)[number];

/** How an action is printed, in tables and at the head of a sentence. */
export const STEP_ACTION_WORDS: Readonly<Record<StepAction, string>> = {
  go: 'Go to',
  fill: 'Fill',
  pick: 'Pick',
  press: 'Press',
  see: 'See',
  keep: 'Keep',
  wait: 'Wait for',
  hand: 'By hand',
};

export interface Step {
  readonly do: StepAction;
  /** The thing's name as it stands on the screen; for *hand*, what is to be done, in people's own words. */
  readonly target: string;
  /** The part of the screen, or the application, that holds it. */
  readonly within?: string | undefined;
  /** What stands next to it, where the name alone is not enough. */
  readonly beside?: string | undefined;
  /** A template (values/template.ts). */
  readonly value?: string | undefined;
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
  return kept;
}
