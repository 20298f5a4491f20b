import { describe, expect, it } from 'vitest';
import { getAttemptOutcome, getRunOutcome } from './outcomes.ts';
import type { Outcome, StepOutcome } from './outcomes.ts';

const step = (outcome: StepOutcome | null, optional = false) => ({ outcome, optional });
const turn = (outcome: Outcome, isBegun = false) => ({ outcome, isBegun });

describe('an attempt’s outcome', () => {
  it.each<[string, ReturnType<typeof step>[], string]>([
    ['failed when a required step failed, whatever else', [step('passed'), step('failed'), step('blocked'), step(null)], 'failed'],
    ['blocked when a step is blocked and none failed', [step('passed'), step('blocked'), step(null)], 'blocked'],
    ['unfinished while a required step has no outcome', [step('passed'), step(null)], 'unfinished'],
    ['passed although an optional step failed', [step('passed'), step('failed', true)], 'passed'],
    ['passed although an optional step was not done', [step('passed'), step(null, true)], 'passed'],
    ['skipped when every step was left out', [step('skipped'), step('skipped')], 'skipped'],
    ['passed when some were left out and one worked', [step('skipped'), step('passed')], 'passed'],
    ['unfinished when nothing was obtained at all', [], 'unfinished'],
    ['unfinished when all steps are optional and none was done', [step(null, true)], 'unfinished'],
  ])('is %s', (_, steps, outcome) => expect(getAttemptOutcome(steps)).toBe(outcome));
});

describe('a run’s outcome', () => {
  it.each<[string, ReturnType<typeof turn>[], string]>([
    ['failed if any turn failed', [turn('passed'), turn('blocked'), turn('failed')], 'failed'],
    ['blocked if one is blocked and none failed', [turn('passed'), turn('blocked'), turn('not run')], 'blocked'],
    ['passed when all passed or were skipped and one passed', [turn('passed'), turn('skipped')], 'passed'],
    ['skipped, not passed, when all were skipped', [turn('skipped'), turn('skipped')], 'skipped'],
    ['under way when one has begun', [turn('not run', true), turn('not run')], 'under way'],
    ['under way when one passed and others are to come', [turn('passed'), turn('not run')], 'under way'],
    ['not run without any beginning', [turn('not run')], 'not run'],
    ['not run without turns', [], 'not run'],
  ])('is %s', (_, turns, outcome) => expect(getRunOutcome(turns)).toBe(outcome));
});
