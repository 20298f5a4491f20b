import type { TestFindingRule } from './finding.ts';

export const byHand: TestFindingRule = {
  rule: 'by hand',
  title: 'steps in words that were not understood',
  weight: 'note',
  find: ({ steps }) =>
    steps.flatMap((step, index) =>
      step.do === 'hand'
        ? [
            {
              steps: [index],
              about: step.target,
              message: `Step ${index + 1} is in people’s own words: people can do it, a runner cannot.`,
              wayOut: 'Say it with go, fill, pick, press, see, keep or wait, where that is what it means.',
            },
          ]
        : [],
    ),
};
