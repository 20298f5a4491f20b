import { printStep } from '../print-step.ts';
import type { TestFindingRule } from './finding.ts';

export const neverReached: TestFindingRule = {
  rule: 'never reached',
  title: 'steps that no run has reached',
  weight: 'note',
  find: ({ steps, reached }) => {
    const first = reached === null ? undefined : steps[reached];
    if (reached === null || !first) return [];
    return [
      {
        steps: steps.slice(reached).map((_, index) => reached + index),
        about: printStep(first),
        message: `No attempt has ever got to step ${reached + 1} or beyond: nobody knows whether it can be done.`,
        wayOut: 'Try the test to its end once, or see what stops it before.',
      },
    ];
  },
};
