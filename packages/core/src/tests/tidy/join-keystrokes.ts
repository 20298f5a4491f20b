import type { Step } from '../step.ts';
import type { TidyRule } from './proposal.ts';
import { isSameThing } from './proposal.ts';

/**
 * Several fills of one field in a row are one fill: each a character more than the one before (then the last is it), or each a single
 * character (then they are joined).
 */
export const joinKeystrokes: TidyRule = {
  rule: 'keystrokes',
  propose: (steps) => {
    const proposals = [];
    for (let at = 0; at < steps.length; at += 1) {
      const run = takeRun(steps, at);
      const value = joinValues(run);
      if (value === undefined) continue;
      proposals.push({
        key: `${run[0]?.target ?? ''} ${value}`,
        reason: `${run.length} keystrokes in one field are one fill.`,
        replacements: [{ at, before: run, after: [{ ...run[0], ...run.at(-1), value } as Step] }],
      });
      at += run.length - 1;
    }
    return proposals;
  },
};

function takeRun(steps: readonly Step[], from: number): Step[] {
  const first = steps[from];
  if (first?.do !== 'fill' || first.value === undefined) return [];
  const run = [first];
  for (let next = steps[from + run.length]; isMore(first, next); next = steps[from + run.length]) run.push(next);
  return run;
}

const isMore = (first: Step, next: Step | undefined): next is Step =>
  next?.do === 'fill' && next.value !== undefined && isSameThing(first, next);

function joinValues(run: readonly Step[]): string | undefined {
  const values = run.map(({ value = '' }) => value);
  if (
    values.length < 2 ||
    values.some((value) => value.includes('{')) ||
    run.slice(0, -1).some(({ expect, keepAs }) => expect !== undefined || keepAs !== undefined)
  )
    return undefined;
  if (values.every((value) => [...value].length === 1)) return values.join('');
  const grows = values.every((value, index) => index === 0 || value.startsWith(values[index - 1] ?? ''));
  return grows ? values.at(-1) : undefined;
}
