import { toNameKey } from '../../values/field.ts';
import { findTemplateNames } from '../../values/template.ts';
import type { TestFindingRule } from './finding.ts';

export const notReadBack: TestFindingRule = {
  rule: 'not read back',
  title: 'an output never read back',
  weight: 'note',
  find: ({ steps }) =>
    steps.flatMap((step, index) => {
      const { keepAs } = step;
      if (keepAs === undefined) return [];
      const isSeen = steps.some(
        (other, at) =>
          at !== index &&
          (other.do === 'see' || other.expect !== undefined || at > index) &&
          ((other.do === 'see' && toNameKey(other.target) === toNameKey(step.target)) ||
            findTemplateNames(`${other.value ?? ''} ${other.expect ?? ''}`).some((name) => toNameKey(name) === toNameKey(keepAs))),
      );
      return isSeen || step.expect !== undefined
        ? []
        : [
            {
              steps: [index],
              about: keepAs,
              message: `${keepAs} is kept as it stands; nothing says that it is the right one.`,
              wayOut: `Say at step ${index + 1} what it should look like, or see it again where it must have arrived.`,
            },
          ];
    }),
};
