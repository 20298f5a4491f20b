import { printStep } from '../print-step.ts';
import type { Step } from '../step.ts';
import type { TestFindingRule } from './finding.ts';

const ACTS = new Set<Step['do']>(['fill', 'pick', 'press']);
const toLook = ({ target, within, value }: Step) => JSON.stringify([target, within, value]).toLowerCase();

export const trueBefore: TestFindingRule = {
  rule: 'true before',
  title: 'a check that was true before',
  weight: 'warning',
  find: ({ steps }) => {
    const seen = new Map<string, number>();
    const filled = new Map<string, number>();
    return steps.flatMap((step, index) => {
      if (step.do === 'fill' && step.value !== undefined) filled.set(toLook(step), index);
      if (step.do !== 'see') return [];
      const key = toLook(step);
      const before = seen.get(key);
      const typed = step.value === undefined ? undefined : filled.get(key);
      seen.set(key, index);
      if (before !== undefined && steps.slice(before + 1, index).some(({ do: action }) => ACTS.has(action)))
        return [
          {
            steps: [index],
            about: printStep(step),
            message: `Step ${index + 1} sees what step ${before + 1} saw already: it would pass if nothing had happened between.`,
            wayOut: 'Check something that only the action can have changed, or the value that it must have now.',
          },
        ];
      if (typed === undefined || steps.slice(typed + 1, index).some(({ do: action }) => action === 'press' || action === 'go')) return [];
      return [
        {
          steps: [index],
          about: printStep(step),
          message: `Step ${index + 1} sees what step ${typed + 1} has just typed there.`,
          wayOut: 'Look at it after it was saved, or where the application shows what it made of it.',
        },
      ];
    });
  },
};
