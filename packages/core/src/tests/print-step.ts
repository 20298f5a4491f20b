import type { Step, StepAction } from './step.ts';
import { STEP_ACTION_WORDS } from './step.ts';

const EXPECT_MARK = ' You should see: ';

/** A name in straight quotes; quotes and backslashes of its own are escaped. */
export function quote(text: string): string {
  return `"${text.replace(/[\\"]/g, '\\$&')}"`;
}

/** The word before a step's value: it makes `See "Charge" showing {Charge expected}` read as a sentence. */
export const VALUE_WORDS: Readonly<Record<StepAction, string>> = {
  go: 'with',
  fill: 'with',
  pick: 'with',
  press: 'with',
  see: 'showing',
  keep: 'with',
  wait: 'with',
  hand: 'with',
};

const isPlace = (value: string) => /^\{[\p{L}\p{N} .+-]+\}$/u.test(value);

/**
 * A step as one uniform sentence; `parseStep` reads it back to the same step.
 * `As "planner": optionally fill "Valid until" in "Quote" with {today + 90 days}, keep as "Due". You should see: …`
 */
export function printStep(step: Step): string {
  const verb = STEP_ACTION_WORDS[step.do];
  const head = [
    step.as === undefined ? '' : `As ${quote(step.as)}: `,
    step.optional ? `Optionally ${verb.toLowerCase()}` : step.as === undefined ? verb : verb.toLowerCase(),
  ].join('');
  const parts = [
    `${head} ${quote(step.target)}`,
    step.within === undefined ? '' : ` in ${quote(step.within)}`,
    step.beside === undefined ? '' : ` beside ${quote(step.beside)}`,
    step.value === undefined ? '' : ` ${VALUE_WORDS[step.do]} ${isPlace(step.value) ? step.value : quote(step.value)}`,
    step.keepAs === undefined ? '' : `, keep as ${quote(step.keepAs)}`,
    '.',
    step.expect === undefined ? '' : `${EXPECT_MARK}${step.expect}`,
  ];
  return parts.join('');
}
