import type { TestFindingRule } from './finding.ts';

const NAMED = 3;

export const sharedOpening: TestFindingRule = {
  rule: 'shared opening',
  title: 'the same opening as other tests',
  weight: 'note',
  find: ({ steps, sharedOpening: shared }) => {
    if (!shared || steps.length === 0) return [];
    const { length, tests, count } = shared;
    const named = tests.slice(0, NAMED);
    const others = count > named.length ? `${named.join(', ')} and ${count - named.length} more` : named.join(', ');
    return [
      {
        steps: Array.from({ length }, (_, index) => index),
        about: 'opening',
        message: `The first ${length} steps are those of ${others} too: a change of the application is mended in each of them.`,
        wayOut: 'Make the opening a test of its own, and chain the others after it.',
      },
    ];
  },
};
