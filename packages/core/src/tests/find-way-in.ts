import type { Step } from './step.ts';

/**
 * Where the screen of a step was opened: the newest step up to it that goes somewhere, else the first. Whoever goes on at a step in a fresh browser does
 * again what lies between.
 */
export function findWayIn(steps: readonly Pick<Step, 'do'>[], to: number): number {
  for (let index = Math.min(to, steps.length - 1); index > 0; index -= 1) if (steps[index]?.do === 'go') return index;
  return 0;
}
