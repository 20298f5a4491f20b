import type { Step, StepAction } from './step.ts';

/** Steps that only look, at whatever came last. */
const LOOKS: ReadonlySet<StepAction> = new Set(['see', 'keep', 'wait']);

export const isLooking = (step: Pick<Step, 'do'>): boolean => LOOKS.has(step.do);

/** The steps after one that look at what it brought. */
export function listLooks<One extends Pick<Step, 'do'>>(steps: readonly One[], at: number): readonly One[] {
  const end = steps.findIndex((step, index) => index > at && !isLooking(step));
  return steps.slice(at + 1, end < 0 ? steps.length : end);
}

/** Whether a step looks at the answer of a door and not at a screen: the newest step before it that does more than look asks one. */
export function looksAtAnswer(steps: readonly Pick<Step, 'do'>[], at: number): boolean {
  const step = steps[at];
  if (!step || !isLooking(step)) return false;
  for (let index = at - 1; index >= 0; index -= 1) if (!isLooking(steps[index]!)) return steps[index]!.do === 'ask';
  return false;
}

/**
 * Where that was opened which a step looks at: the newest step up to it that goes somewhere, for one that looks at an answer the one that asked; else
 * the first. Whoever goes on at a step in a fresh browser does again what lies between.
 */
export function findWayIn(steps: readonly Pick<Step, 'do'>[], to: number): number {
  if (steps[to]?.do === 'ask') return to;
  if (looksAtAnswer(steps, to)) return findAsked(steps, to);
  for (let index = Math.min(to, steps.length - 1); index > 0; index -= 1) if (steps[index]?.do === 'go') return index;
  return 0;
}

function findAsked(steps: readonly Pick<Step, 'do'>[], at: number): number {
  let index = at;
  while (index > 0 && steps[index]?.do !== 'ask') index -= 1;
  return index;
}
