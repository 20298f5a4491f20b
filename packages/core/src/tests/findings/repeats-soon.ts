import { countFreshValues, countUntilRepeat } from '../../values/count-fresh.ts';
import { parseTemplate } from '../../values/template.ts';
import type { TestFindingRule } from './finding.ts';

/** A pattern that is as likely as not to repeat within so many attempts is too short for a cycle or two (our own choice). */
const FEW_ATTEMPTS = 100;

export const repeatsSoon: TestFindingRule = {
  rule: 'repeats soon',
  title: 'fresh values that repeat soon',
  weight: 'note',
  find: ({ steps, rows }) => {
    const templates = [
      ...steps.map(({ value = '' }, index) => ({ value, steps: [index] })),
      ...rows.flatMap(({ values }) => Object.values(values).map((value) => ({ value, steps: [] as number[] }))),
    ];
    return templates.flatMap(({ value, steps: where }) =>
      parseTemplate(value).flatMap((part) => {
        if (part.kind !== 'new') return [];
        const [values, attempts] = [countFreshValues(part.pattern), countUntilRepeat(countFreshValues(part.pattern))];
        if (attempts > FEW_ATTEMPTS) return [];
        return [
          {
            steps: where,
            about: part.pattern,
            message: `{new ${part.pattern}} has ${values.toLocaleString('en')} values: after ${attempts} attempts a repeat is as likely as not.`,
            wayOut: 'Give the pattern more letters or digits.',
          },
        ];
      }),
    );
  },
};
