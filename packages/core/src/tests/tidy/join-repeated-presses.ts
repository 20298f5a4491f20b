import type { Step } from '../step.ts';
import type { TidyRule } from './proposal.ts';
import { isSameThing } from './proposal.ts';

/** The same thing pressed several times in a row, with nothing to see between: impatience while recording. */
export const joinRepeatedPresses: TidyRule = {
  rule: 'presses',
  propose: (steps) => {
    const proposals = [];
    for (let at = 0; at < steps.length; at += 1) {
      const run = takeRun(steps, at);
      if (run.length < 2) continue;
      proposals.push({
        key: run[0]?.target ?? '',
        reason: `${run[0]?.target ?? 'It'} is pressed ${run.length} times in a row.`,
        replacements: [{ at, before: run, after: run.slice(-1) }],
      });
      at += run.length - 1;
    }
    return proposals;
  },
};

function takeRun(steps: readonly Step[], from: number): Step[] {
  const first = steps[from];
  if (first?.do !== 'press') return [];
  const run = [first];
  for (let at = from + 1; at < steps.length; at += 1) {
    const [last, next] = [run.at(-1), steps[at]];
    if (
      next?.do !== 'press' ||
      last?.expect !== undefined ||
      last?.keepAs !== undefined ||
      next.value !== first.value ||
      !isSameThing(first, next)
    )
      break;
    run.push(next);
  }
  return run;
}
