import type { TestFindingRule } from './finding.ts';

/** More than this, and a test is rarely one transaction (common practice, no source). */
const MANY_STEPS = 25;

export const tooManySteps: TestFindingRule = {
  rule: 'many steps',
  title: 'many steps in one test',
  weight: 'note',
  find: ({ steps }) =>
    steps.length <= MANY_STEPS
      ? []
      : [
          {
            steps: [],
            about: 'test',
            message: `${steps.length} steps are more than one transaction; who fails at step ${MANY_STEPS} begins anew.`,
            wayOut: 'Make two tests of it, and hand over what the second needs.',
          },
        ],
};
