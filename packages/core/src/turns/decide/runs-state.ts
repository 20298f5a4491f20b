/**
 * Runs as a decision sees them: what is stored of them, with the defects that hang on their turns. Moments are milliseconds since 1970; nothing
 * here has a clock, a database or an order of its own.
 */
import type { CycleState, LeavingWay } from '../../cycles/cycle.ts';
import type { CycleRules } from '../../cycles/rules.ts';
import type { DefectStatus } from '../../defects/defect.ts';
import type { AttemptId, CycleId, DefectId, PersonId, RunId, RunnerId, TeamId, TestId, TestVersionId, TurnId } from '../../ids.ts';
import type { Outcome, RunOutcome, StepOutcome, TurnState, TurnStatus } from '../../outcomes.ts';
import type { Role } from '../../programmes/roles.ts';
import type { Step } from '../../tests/step.ts';
import type { Field } from '../../values/field.ts';
import type { HoldCause, PinnedNeed } from '../turn.ts';

export interface CycleFacts {
  readonly id: CycleId;
  readonly code: string;
  readonly state: CycleState;
  readonly rules: CycleRules;
}

export interface FinishedAttempt {
  readonly id: AttemptId;
  readonly number: number;
  readonly personId: PersonId;
  readonly outcome: StepOutcome;
  readonly kept: Readonly<Record<string, string>>;
  readonly finishedAtMs: number;
  /** Its maker left the programme, or a runner broke off, before it was finished; somebody else begins anew. */
  readonly isAbandoned: boolean;
  readonly versionId: TestVersionId | null;
  /** What fixes its fresh values. */
  readonly seedId: AttemptId;
}

export interface OpenAttempt {
  readonly id: AttemptId;
  readonly number: number;
  readonly personId: PersonId;
  readonly personName: string;
  readonly kept: Readonly<Record<string, string>>;
  readonly versionId: TestVersionId | null;
  readonly environment: string;
  readonly browser: string;
  readonly isFromSheet: boolean;
  readonly startedAtMs: number;
  /** It is with a pool of runners. */
  readonly isWithRunners: boolean;
  readonly runnerId: RunnerId | null;
  /** It goes on from where that one ended. */
  readonly continuesId: AttemptId | null;
  readonly seedId: AttemptId;
}

export interface TurnFacts {
  readonly id: TurnId;
  readonly runId: RunId;
  /** The place in the run; `after`, `needs` and the rules about people name turns by it. */
  readonly index: number;
  readonly title: string;
  readonly testId: TestId | null;
  readonly versionId: TestVersionId | null;
  /** It has a version, or steps of its own: something can be done. */
  readonly hasSteps: boolean;
  readonly teamId: TeamId | null;
  readonly assigneeId: PersonId | null;
  readonly dueOn: string | null;
  readonly after: readonly number[];
  readonly needs: readonly PinnedNeed[];
  readonly otherPersonThan: readonly number[];
  readonly latest: FinishedAttempt | null;
  /** What blocked the attempt of this number, and any before it, is out of the way. */
  readonly liftedAfter: number | null;
  readonly open: OpenAttempt | null;
  /** These follow from attempts, defects and the run: only `settleRuns` writes them. */
  readonly state: TurnState;
  readonly outcome: Outcome;
  readonly status: TurnStatus;
  readonly causes: readonly HoldCause[];
  readonly isRetestDue: boolean;
  readonly readyAtMs: number | null;
  readonly doneAtMs: number | null;
}

export interface RunFacts {
  readonly id: RunId;
  readonly number: number;
  readonly cycle: CycleFacts;
  readonly leftTo: LeavingWay | null;
  readonly leftReason: string;
  readonly outcome: RunOutcome;
  /** Place i holds the turn with index i. */
  readonly turns: readonly TurnFacts[];
}

export interface DefectFacts {
  readonly id: DefectId;
  readonly code: string;
  readonly title: string;
  readonly status: DefectStatus;
  readonly reason: string;
  /** Who fixes it. */
  readonly assigneeId: PersonId | null;
  /** All turns that it keeps failed or blocked, in whichever run. */
  readonly turns: readonly DefectTurn[];
}

export interface DefectTurn {
  readonly turn: TurnId;
  /** The turn's newest finished attempt when the defect was last said to be fixed (0: none): what was tried after it is the retest. null: not fixed. */
  readonly retestAfter: number | null;
}

interface StepResultFacts {
  readonly stepIndex: number;
  readonly outcome: StepOutcome | null;
  readonly note: string;
}

/** What was recorded in an attempt that is under way. */
export interface AttemptSheet {
  readonly attemptId: AttemptId;
  readonly steps: readonly Step[];
  readonly gives: readonly Field[];
  readonly results: readonly StepResultFacts[];
  /** Pictures and files, by the step's index. */
  readonly pictures: ReadonlyMap<number, number>;
}

export interface RunsState {
  readonly runs: readonly RunFacts[];
  readonly defects: readonly DefectFacts[];
  /** Of attempts that the event ends. */
  readonly sheets: readonly AttemptSheet[];
}

/** Who acts. */
export interface Doer {
  readonly personId: PersonId;
  readonly name: string;
  readonly roles: readonly Role[];
  readonly teams: readonly TeamId[];
  /** The machine that acts for a pool; null: a person. */
  readonly runnerId: RunnerId | null;
}

export function findTurn(state: Pick<RunsState, 'runs'>, id: TurnId): { run: RunFacts; turn: TurnFacts } | undefined {
  for (const run of state.runs) {
    const turn = run.turns.find((candidate) => candidate.id === id);
    if (turn) return { run, turn };
  }
  return undefined;
}

/** The same runs with some turns changed. */
export function withTurns(state: RunsState, changes: ReadonlyMap<TurnId, Partial<TurnFacts>>): RunsState {
  if (changes.size === 0) return state;
  return {
    ...state,
    runs: state.runs.map((run) =>
      run.turns.some(({ id }) => changes.has(id))
        ? { ...run, turns: run.turns.map((turn) => (changes.has(turn.id) ? { ...turn, ...changes.get(turn.id) } : turn)) }
        : run,
    ),
  };
}

/** The defects of one turn. */
export function listDefectsOf(state: Pick<RunsState, 'defects'>, id: TurnId): DefectFacts[] {
  return state.defects.filter(({ turns }) => turns.some(({ turn }) => turn === id));
}
