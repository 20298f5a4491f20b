import { DEFAULT_RULES } from '../../cycles/rules.ts';
import type { Step } from '../../tests/step.ts';
import type {
  AttemptSheet,
  CycleFacts,
  DefectFacts,
  Doer,
  FinishedAttempt,
  OpenAttempt,
  RunFacts,
  RunsState,
  TurnFacts,
} from './runs-state.ts';

/** Builders of runs for tests of decisions: what is not said is as in the middle of an open cycle. */
export const AT = 1_000_000;

export const createCycleFacts = (more: Partial<CycleFacts> = {}): CycleFacts => ({
  ...{ id: 'cycle' as never, code: 'ACC-1', state: 'open', rules: { ...DEFAULT_RULES } },
  ...more,
});

export const createTurn = (index: number, more: Partial<TurnFacts> = {}): TurnFacts => ({
  ...{ id: `t${index}` as never, runId: 'r' as never, index, title: `Turn ${index}`, testId: 'test' as never, versionId: 'v1' as never },
  ...{ hasSteps: true, teamId: 'lane' as never, assigneeId: 'una' as never, dueOn: null, after: index === 0 ? [] : [index - 1], needs: [] },
  ...{ otherPersonThan: [], latest: null, open: null, state: 'waiting', outcome: 'not run', status: 'waiting', causes: [] },
  ...{ liftedAfter: null, isRetestDue: false, readyAtMs: null, doneAtMs: null },
  ...more,
});

export const createFinished = (outcome: FinishedAttempt['outcome'], more: Partial<FinishedAttempt> = {}): FinishedAttempt => ({
  ...{ id: 'a1' as never, number: 1, personId: 'una' as never, outcome, kept: {}, finishedAtMs: AT - 1_000, isAbandoned: false },
  ...{ versionId: 'v1' as never, seedId: 'a1' as never },
  ...more,
});

export const createOpen = (more: Partial<OpenAttempt> = {}): OpenAttempt => ({
  ...{ id: 'a2' as never, number: 1, personId: 'una' as never, personName: 'Una North', kept: {}, versionId: 'v1' as never },
  ...{ environment: 'Rehearsal', browser: '', isFromSheet: false, startedAtMs: AT - 5_000 },
  ...{ isWithRunners: false, runnerId: null, continuesId: null, seedId: 'a2' as never },
  ...more,
});

export const createRun = (turns: readonly TurnFacts[], more: Partial<RunFacts> = {}): RunFacts => ({
  ...{ id: 'r' as never, number: 1, cycle: createCycleFacts(), leftTo: null, leftReason: '', outcome: 'not run', turns },
  ...more,
});

export const createDefect = (turns: readonly string[], more: Partial<DefectFacts> = {}): DefectFacts => ({
  ...{ id: 'd1' as never, code: 'D-1', title: 'It is wrong', status: 'new', reason: '', assigneeId: null },
  turns: turns.map((turn) => ({ turn: turn as never, retestAfter: null })),
  ...more,
});

export const createSheet = (outcomes: readonly (FinishedAttempt['outcome'] | null)[], more: Partial<AttemptSheet> = {}): AttemptSheet => ({
  attemptId: 'a2' as never,
  steps: outcomes.map((_, index): Step => ({ do: 'press', target: `Button ${index + 1}` })),
  ...{ gives: [], pictures: new Map() },
  results: outcomes.flatMap((outcome, stepIndex) => (outcome === null ? [] : [{ stepIndex, outcome, note: '' }])),
  ...more,
});

export const createState = (runs: readonly RunFacts[], more: Partial<RunsState> = {}): RunsState => ({
  runs,
  defects: [],
  sheets: [],
  ...more,
});

export const UNA: Doer = { personId: 'una' as never, name: 'Una North', roles: ['tester'], teams: ['lane' as never], runnerId: null };
export const LEAD: Doer = { personId: 'lea' as never, name: 'Lea Marsh', roles: ['lead'], teams: [], runnerId: null };
