import type { TrialView } from '@kindred-baton/contracts/runners/trial';
import { describe, expect, it } from 'vitest';
import { describeTrial, findTried } from './trial-part.tsx';

const result = (outcome: 'passed' | 'failed' | 'blocked') => ({
  ...{ outcome, note: '', expected: '', actual: '', unlooked: '', tookMs: 5, kept: null },
});
const STEPS = [
  { do: 'go' as const, target: 'Quotes' },
  { do: 'press' as const, target: 'Save' },
];
const trial = (more: Partial<TrialView>) => ({ state: 'ended', results: [], steps: STEPS, isHeard: true, ...more }) as unknown as TrialView;

describe('what a runner tried', () => {
  it.each([
    [{ state: 'waiting' }, 'Waiting for a session that is free …'],
    [{ state: 'waiting', isHeard: false }, 'No runner is heard of: start one, and it takes this.'],
    [{ state: 'under way', results: [result('passed')] }, 'Step 2 of 2 …'],
    [{ state: 'stopped', results: [result('passed')] }, 'Stopped after 1 step.'],
    [{ state: 'broken off', results: [] }, 'The runner was not heard of any more after 0 steps. Try it again.'],
    [{ results: [result('passed'), result('failed')] }, 'Failed at step 2.'],
    [{ results: [result('blocked')] }, 'Blocked at step 1.'],
    [{ results: [result('passed'), result('passed')] }, 'All 2 steps done.'],
  ] as const)('%j: %s', (more, words) => {
    expect(describeTrial(trial(more as never))).toBe(words);
  });

  it('stands at a step only while that is the one that was tried', () => {
    const tried = trial({ results: [result('passed'), result('failed')] });
    expect(findTried(tried, { do: 'press', target: 'Save', optional: false }, 1)?.outcome).toBe('failed');
    expect(findTried(tried, { do: 'press', target: 'Save quote' }, 1)).toBeUndefined();
    expect(findTried(undefined, STEPS[0]!, 0)).toBeUndefined();
  });
});
