/**
 * Outcomes, from a step to a run (design: outcome). A result counts only if it was obtained: what nobody did is
 * *not run*, never *passed*. Terms as in ISO/IEC/IEEE 29119-1.
 */
export const STEP_OUTCOMES = ['passed', 'failed', 'blocked', 'skipped'] as const;
export type StepOutcome = (typeof STEP_OUTCOMES)[number];

export const OUTCOMES = [...STEP_OUTCOMES, 'not run'] as const;
export type Outcome = (typeof OUTCOMES)[number];

export interface StepResultView {
  readonly optional: boolean;
  readonly outcome: StepOutcome | null;
}

/**
 * An attempt's outcome from its steps: failed if a required step failed; else blocked if any is blocked; else
 * unfinished while a required step has no outcome (or no step has one); else skipped if every step was skipped; else passed.
 */
export function getAttemptOutcome(steps: readonly StepResultView[]): StepOutcome | 'unfinished' {
  if (steps.some((step) => !step.optional && step.outcome === 'failed')) return 'failed';
  if (steps.some((step) => step.outcome === 'blocked')) return 'blocked';
  if (steps.some((step) => !step.optional && step.outcome === null)) return 'unfinished';
  if (steps.every((step) => step.outcome === null)) return 'unfinished';
  return steps.every((step) => step.outcome === 'skipped' || step.outcome === null) ? 'skipped' : 'passed';
}

export interface RunTurnView {
  readonly outcome: Outcome;
  readonly isBegun: boolean;
}

export const RUN_OUTCOMES = ['failed', 'blocked', 'passed', 'under way', 'not run', 'skipped'] as const;
export type RunOutcome = (typeof RUN_OUTCOMES)[number];

/**
 * A run's outcome from its turns: failed if any failed, else blocked, else passed when every turn passed or was
 * skipped and one passed, else under way if one has begun, else not run. All skipped: skipped.
 */
export function getRunOutcome(turns: readonly RunTurnView[]): RunOutcome {
  if (turns.some((turn) => turn.outcome === 'failed')) return 'failed';
  if (turns.some((turn) => turn.outcome === 'blocked')) return 'blocked';
  const isOver = turns.length > 0 && turns.every((turn) => turn.outcome === 'passed' || turn.outcome === 'skipped');
  if (isOver) return turns.some((turn) => turn.outcome === 'passed') ? 'passed' : 'skipped';
  return turns.some((turn) => turn.isBegun || turn.outcome !== 'not run') ? 'under way' : 'not run';
}

/** Where a turn stands. *Held* is waiting with a known cause and is shown, not stored. */
export const TURN_STATES = ['waiting', 'ready', 'under way', 'done'] as const;
export type TurnState = (typeof TURN_STATES)[number];

/** What a turn is counted under: its outcome once it has one, else where it stands. In the order of a stacked bar. */
export const TURN_STATUSES = ['passed', 'failed', 'blocked', 'skipped', 'under way', 'ready', 'waiting', 'held'] as const;
export type TurnStatus = (typeof TURN_STATUSES)[number];
