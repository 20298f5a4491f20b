import { toNameKey } from '../../values/field.ts';
import { findTemplateNames } from '../../values/template.ts';
import type { TestFindingRule } from './finding.ts';

export const neverUsed: TestFindingRule = {
  rule: 'never used',
  title: 'a kept value never used',
  weight: 'note',
  find: ({ steps, neededElsewhere }) =>
    steps.flatMap(({ keepAs }, index) => {
      if (keepAs === undefined || neededElsewhere.has(toNameKey(keepAs))) return [];
      const isUsed = steps
        .slice(index + 1)
        .some((step) =>
          findTemplateNames(`${step.target} ${step.value ?? ''} ${step.expect ?? ''}`).some(
            (name) => toNameKey(name) === toNameKey(keepAs),
          ),
        );
      return isUsed
        ? []
        : [
            {
              steps: [index],
              about: keepAs,
              message: `${keepAs} is kept, but no later step and no other test uses it.`,
              wayOut: 'Use it in a check, hand it on to a test that needs it, or do not keep it.',
            },
          ];
    }),
};
