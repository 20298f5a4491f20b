/** A step of a transaction test: do something to a named thing, with a value; what you should see; what to keep. */
export const STEP_ACTIONS = ['go', 'fill', 'pick', 'press', 'see', 'keep', 'wait'] as const;
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
};

export interface Step {
  readonly do: StepAction;
  /** The thing's name as it stands on the screen. */
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
  const name = (kept['keepAs'] as string | undefined) ?? (step.do === 'keep' ? fold(step.target) : '');
  const keepAs = fold(name.replace(/[{}]/g, ''));
  if (keepAs === '') delete kept['keepAs'];
  else kept['keepAs'] = keepAs;
  if (step.optional) kept['optional'] = true;
  return kept as unknown as Step;
}
