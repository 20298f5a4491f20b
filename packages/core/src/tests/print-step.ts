import type { Step } from './step.ts';
import { getActionFacts } from './step.ts';

const EXPECT_MARK = ' You should see: ';

/** A name in straight quotes; quotes and backslashes of its own are escaped. */
export function quote(text: string): string {
  return `"${text.replace(/[\\"]/g, '\\$&')}"`;
}

const isPlace = (value: string) => /^\{[\p{L}\p{N} .+-]+\}$/u.test(value);

/**
 * A step as one uniform sentence; `parseStep` reads it back to the same step.
 * `As "planner": optionally fill "Valid until" in "Quote" with {today + 90 days}, keep as "Due". You should see: …`
 */
export function printStep(step: Step): string {
  const verb = getActionFacts(step.do).word;
  const head = [
    step.as === undefined ? '' : `As ${quote(step.as)}: `,
    step.optional ? `Optionally ${verb.toLowerCase()}` : step.as === undefined ? verb : verb.toLowerCase(),
  ].join('');
  const parts = [
    `${head} ${quote(step.target)}`,
    step.within === undefined ? '' : ` in ${quote(step.within)}`,
    step.beside === undefined ? '' : ` beside ${quote(step.beside)}`,
    printValue(step),
    step.seconds === undefined ? '' : `, within ${step.seconds} seconds`,
    step.keepAs === undefined ? '' : `, keep as ${quote(step.keepAs)}`,
    '.',
    step.expect === undefined ? '' : `${EXPECT_MARK}${step.expect}`,
  ];
  return parts.join('');
}

/** What is put in, or what is said of what is seen. */
function printValue({ do: action, check, value }: Step): string {
  const word = check ?? (value === undefined ? '' : getActionFacts(action).valueWord);
  return `${word === '' ? '' : ` ${word}`}${value === undefined ? '' : ` ${isPlace(value) ? value : quote(value)}`}`;
}
