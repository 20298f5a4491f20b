import type { Step } from '../step.ts';
import type { TidyRule } from './proposal.ts';
import { isSameThing } from './proposal.ts';

const ENTERS = new Set<Step['do']>(['fill', 'pick']);

/** A fill that a later fill of the same field overwrites, with nothing but other entries between them, was a slip. */
export const dropOverwrittenFills: TidyRule = {
  rule: 'overwritten',
  propose: (steps) =>
    steps.flatMap((step, at) => {
      if (step.do !== 'fill' || step.expect !== undefined || step.keepAs !== undefined) return [];
      const later = findOverwriting(steps, at);
      if (!later || later.value === undefined || ((later.value ?? '').startsWith(step.value ?? '') && later === steps[at + 1])) return [];
      return [
        {
          key: `${step.target} ${step.value ?? ''}`,
          reason: `${step.target} is filled again before anything is pressed.`,
          replacements: [{ at, before: [step], after: [] }],
        },
      ];
    }),
};

function findOverwriting(steps: readonly Step[], at: number): Step | undefined {
  for (let next = at + 1; next < steps.length; next += 1) {
    const step = steps[next];
    if (!step || !ENTERS.has(step.do) || step.expect !== undefined || step.keepAs !== undefined) {
      return step?.do === 'fill' && steps[at] && isSameThing(steps[at], step) ? step : undefined;
    }
    if (step.do === 'fill' && steps[at] && isSameThing(steps[at], step)) return step;
  }
  return undefined;
}
