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

const TEXTS = ['within', 'beside', 'value', 'expect', 'keepAs', 'as'] as const;

/**
 * The one form of a step: white space folded, empty parts left out, `optional` only when true, a kept name without
 * braces; what a *keep* step reads is kept under its own name unless another is given.
 */
export function normalizeStep(step: Step): Step {
  const fold = (text: string) => text.replace(/\s+/g, ' ').trim();
  const kept: Record<string, unknown> = { do: step.do, target: fold(step.target) };
  for (const key of TEXTS) {
    const text = fold(step[key] ?? '');
    if (text !== '') kept[key] = text;
  }
  const toKeptName = (text: string) => fold(text.replace(/[{}]/g, ''));
  const keepAs = toKeptName(step.keepAs ?? '') || (step.do === 'keep' ? toKeptName(step.target) : '');
  if (keepAs === '') delete kept['keepAs'];
  else kept['keepAs'] = keepAs;
  if (step.optional) kept['optional'] = true;
  return kept as unknown as Step;
}
