import type { TestFindingRule } from './finding.ts';

export const checksNothing: TestFindingRule = {
  rule: 'checks nothing',
  title: 'no step checks anything',
  weight: 'warning',
  find: ({ steps }) =>
    steps.length === 0 || steps.some((step) => step.do === 'see' || step.expect !== undefined)
      ? []
      : [
          {
            steps: [],
            about: 'test',
            message: 'No step checks anything: the test passes whatever the application does.',
            wayOut: 'Say at one step what you should see, or add a step that sees it.',
          },
        ],
};
