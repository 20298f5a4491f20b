import { printStep } from '../print-step.ts';
import type { TestFindingRule } from './finding.ts';
import { isLooking, isSaving } from './finding.ts';

export const nothingSeenAfterSave: TestFindingRule = {
  rule: 'nothing seen after a save',
  title: 'no expected result after a save',
  weight: 'warning',
  find: ({ steps }) =>
    steps.flatMap((step, index) =>
      isSaving(step) && !isLooking(step) && !isLooking(steps[index + 1])
        ? [
            {
              steps: [index],
              about: printStep(step),
              message: `Step ${index + 1} presses ${step.target}, and nobody looks whether it worked.`,
              wayOut: 'Say what you should see, such as the message or the new state.',
            },
          ]
        : [],
    ),
};
