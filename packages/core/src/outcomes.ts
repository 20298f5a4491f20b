/**
 * Outcomes, from a step to a run (design: outcome). A result counts only if it was obtained: what nobody did is
 * *not run*, never *passed*. Terms as in ISO/IEC/IEEE 29119-1.
 */
interface OutcomeFacts {
  /** What stands behind it may go on. */
  readonly letsOn: boolean;
  /** Something is wrong: words are asked for, a defect is offered, the baton is held. */
  readonly isTrouble: boolean;
}

/** What a step, an attempt or a turn comes to. A row here is all that another outcome takes. */
const OUTCOME_FACTS = {
  passed: { letsOn: true, isTrouble: false },
  failed: { letsOn: false, isTrouble: true },
  blocked: { letsOn: false, isTrouble: true },
  skipped: { letsOn: true, isTrouble: false },
} as const satisfies Readonly<Record<string, OutcomeFacts>>;
export type StepOutcome = keyof typeof OUTCOME_FACTS;
export const STEP_OUTCOMES = Object.keys(OUTCOME_FACTS) as [StepOutcome, ...StepOutcome[]];

const factsOf = (outcome: string | null | undefined): OutcomeFacts | undefined =>
  (OUTCOME_FACTS as Readonly<Record<string, OutcomeFacts>>)[outcome ?? ''];
/** Whether what stands behind may go on; nothing goes on behind what was not run. */
export const letsOn = (outcome: Outcome | null | undefined): boolean => factsOf(outcome)?.letsOn ?? false;
/** Failed or blocked. */
export const isTrouble = (outcome: Outcome | null | undefined): outcome is 'failed' | 'blocked' => factsOf(outcome)?.isTrouble ?? false;
/** The outcomes behind which a baton goes on, for questions to a database. */
export const LETTING_ON = STEP_OUTCOMES.filter(letsOn);

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
  const isOver = turns.length > 0 && turns.every(({ outcome }) => letsOn(outcome));
  if (isOver) return turns.some((turn) => turn.outcome === 'passed') ? 'passed' : 'skipped';
  return turns.some((turn) => turn.isBegun || turn.outcome !== 'not run') ? 'under way' : 'not run';
}

/** Where a turn stands. *Held* is waiting with a known cause and is shown, not stored. */
export const TURN_STATES = ['waiting', 'ready', 'under way', 'done'] as const;
export type TurnState = (typeof TURN_STATES)[number];

interface TurnStatusFacts {
  readonly word: string;
  /** *to do*: nobody has begun; *begun*; *stopped*: tried, and it is not known whether it works; *over*: it counts as run; *left out*. */
  readonly stage: 'to do' | 'begun' | 'stopped' | 'over' | 'left out';
}

/** What a turn is counted under: its outcome once it has one, else where it stands. In the order of a stacked bar. */
const TURN_STATUS_FACTS = {
  passed: { word: 'Passed', stage: 'over' },
  failed: { word: 'Failed', stage: 'over' },
  blocked: { word: 'Blocked', stage: 'stopped' },
  skipped: { word: 'Skipped', stage: 'left out' },
  'under way': { word: 'Under way', stage: 'begun' },
  ready: { word: 'Ready', stage: 'to do' },
  waiting: { word: 'Waiting', stage: 'to do' },
  held: { word: 'Held', stage: 'to do' },
} as const satisfies Readonly<Record<string, TurnStatusFacts>>;
export type TurnStatus = keyof typeof TURN_STATUS_FACTS;
export const TURN_STATUSES = Object.keys(TURN_STATUS_FACTS) as [TurnStatus, ...TurnStatus[]];
export const getStatusLabel = (status: TurnStatus): string => TURN_STATUS_FACTS[status].word;
const isAt = (status: TurnStatus, ...stages: readonly TurnStatusFacts['stage'][]) => stages.includes(TURN_STATUS_FACTS[status].stage);
/** Nobody has begun it. */
export const isToDo = (status: TurnStatus): boolean => isAt(status, 'to do');
/** Work is left in it: nobody has begun it, or it is under way. */
export const isLeft = (status: TurnStatus): boolean => isAt(status, 'to do', 'begun');
/** It was not run, though it should be. */
export const isNotRun = (status: TurnStatus): boolean => isAt(status, 'to do', 'begun', 'stopped');
