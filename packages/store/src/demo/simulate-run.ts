import { looksAtAnswer } from '@kindred-baton/core/tests/find-way-in';
import type { AttemptId, Id, PersonId, TurnId } from '@kindred-baton/core/ids';
import type { StepOutcome } from '@kindred-baton/core/outcomes';
import { assessRun } from '@kindred-baton/core/turns/assess-run';
import { createFreshValue, createRandom, toSeed } from '@kindred-baton/core/values/fresh';
import type { Field } from '@kindred-baton/core/values/field';
import type { NewTurn } from '../cycles/make-turns.ts';
import type { RunRow } from '../schema/cycles.ts';
import type { TestVersionRow } from '../schema/tests.ts';
import type { attempts, stepResults } from '../schema/turns.ts';
import { toTurnView } from '../runs/load-runs.ts';
import { createDemoIds } from './demo-ids.ts';
import { formatCents } from './charges.ts';
import { isAtRetest } from '@kindred-baton/core/defects/defect';
import type { DefectPlan, StopPlan } from './fates.ts';

type NewAttempt = typeof attempts.$inferInsert & { readonly id: AttemptId };
type NewResult = typeof stepResults.$inferInsert;

export interface RunFate {
  /** How many legs are done, from the first on. */
  readonly cut: number;
  /** What stops it at leg `cut`. */
  readonly stop?: StopPlan['by'] | undefined;
  /** The thing of the step at which it stops; else it is the last that says what should be seen. */
  readonly on?: string | undefined;
  /** Legs whose first attempt failed by a defect that was fixed since. */
  readonly mended: ReadonlyMap<number, string>;
}

export interface RunSimulation {
  readonly run: Pick<RunRow, 'id' | 'values'>;
  readonly turns: readonly NewTurn[];
  readonly versionOf: ReadonlyMap<string, TestVersionRow>;
  readonly fate: RunFate;
  /** The defects of fates, by key. */
  readonly defectOf: ReadonlyMap<string, DefectPlan>;
  /** The moment of a share (0 to 1) of the time that this run has had so far. */
  readonly momentAt: (share: number) => Date;
  readonly environment: string;
  readonly id: <Kind extends string>() => Id<Kind>;
  readonly random: () => number;
}

export interface Failure {
  readonly defect: string;
  readonly turn: NewTurn;
  readonly attempt: NewAttempt;
  readonly stepIndex: number;
  /** What came in from the legs before. */
  readonly carried: readonly { readonly name: string; readonly value: string }[];
}

export interface SimulatedRun {
  readonly turns: readonly NewTurn[];
  readonly outcome: RunRow['outcome'];
  readonly attempts: readonly NewAttempt[];
  readonly results: readonly NewResult[];
  readonly failures: readonly Failure[];
}

const BROWSERS = ['Chromium 156 on Windows', 'Firefox 151 on Windows', 'Chromium 156 on Android'];

/** Plays one run up to its fate: attempts with their steps and kept values, then where every turn stands. */
export function simulateRun(simulation: RunSimulation): SimulatedRun {
  const { turns, fate } = simulation;
  const tries: NewAttempt[] = [];
  const results: NewResult[] = [];
  const failures: Failure[] = [];
  const steps = fate.cut + (fate.stop && fate.stop.kind !== 'idle' ? 1 : 0);
  for (let index = 0; index < steps; index += 1) {
    const turn = turns[index];
    if (!turn) break;
    const share = (index + 0.5 + simulation.random() * 0.4) / steps;
    const mended = fate.mended.get(index);
    if (mended !== undefined) {
      const first = playAttempt(simulation, turn, { number: 1, outcome: 'failed', share: share - 0.3 / steps, note: '' });
      collect(first);
      failures.push({ defect: mended, turn, attempt: first.attempt, stepIndex: first.results.length - 1, carried: listCarried(tries) });
    }
    const stop = index === fate.cut ? fate.stop : undefined;
    const outcome: StepOutcome = stop ? (stop.kind === 'block' ? 'blocked' : 'failed') : 'passed';
    const last = playAttempt(simulation, turn, {
      number: mended === undefined ? 1 : 2,
      outcome,
      share,
      note: getNote(stop, simulation.defectOf),
      on: stop && fate.on,
    });
    collect(last);
    if (stop?.kind === 'defect')
      failures.push({ defect: stop.key, turn, attempt: last.attempt, stepIndex: last.results.length - 1, carried: listCarried(tries) });
  }
  return { ...assess(simulation, tries), attempts: tries, results, failures };

  function collect(played: { attempt: NewAttempt; results: NewResult[] }): void {
    tries.push(played.attempt);
    results.push(...played.results);
  }
}

function listCarried(tries: readonly NewAttempt[]): Failure['carried'] {
  return tries.flatMap((attempt) => Object.entries(attempt.kept ?? {}).map(([name, value]) => ({ name, value })));
}

interface Try {
  readonly number: number;
  readonly outcome: StepOutcome;
  readonly share: number;
  readonly note: string;
  readonly on?: string | undefined;
}

function playAttempt(
  simulation: RunSimulation,
  turn: NewTurn,
  { number, outcome, share, note, on }: Try,
): { attempt: NewAttempt; results: NewResult[] } {
  const { id, random, versionOf } = simulation;
  const version = versionOf.get(turn.versionId ?? '');
  if (!version) throw new Error(`The demo's turn ${turn.title} has no version.`);
  const finishedAt = simulation.momentAt(share);
  const attemptId = id<'attempt'>();
  const minutes = turn.minutes * takeShare(attemptId);
  const attempt: NewAttempt = {
    ...{
      ...{ id: attemptId, seedId: attemptId },
      turnId: turn.id as TurnId,
      number,
      outcome,
      finishedAt,
      versionId: version.id,
      environment: simulation.environment,
    },
    personId: turn.assigneeId as PersonId,
    startedAt: new Date(finishedAt.getTime() - minutes * 60_000),
    kept: outcome === 'passed' ? Object.fromEntries(version.gives.map((field) => [field.name, createKept(simulation, field)])) : {},
    browser: BROWSERS[Math.floor(random() * BROWSERS.length)] ?? '',
  };
  const stopAt = outcome === 'passed' ? version.steps.length : findTellingStep(version, on);
  // Numbers of what is asked of doors come from elsewhere: such steps can be added to a test, and all that happened in the demo stays as it is.
  const doorId = createDemoIds(createRandom(toSeed(attemptId)));
  const isOfDoor = (index: number) => version.steps[index]?.do === 'ask' || looksAtAnswer(version.steps, index);
  // A word after each step, the last at the end.
  const last = Math.min(stopAt, version.steps.length - 1);
  const momentOf = (stepIndex: number) => new Date(finishedAt.getTime() - (1 - (stepIndex + 1) / (last + 1)) * minutes * 60_000);
  const results = version.steps.slice(0, stopAt + 1).map((_, stepIndex) => ({
    ...{ attemptId, stepIndex, byId: attempt.personId, recordedAt: momentOf(stepIndex), wordId: isOfDoor(stepIndex) ? doorId() : id() },
    outcome: stepIndex === stopAt ? outcome : ('passed' as const),
    note: stepIndex === stopAt ? note : '',
  }));
  return { attempt, results };
}

/** How much of the planned minutes an attempt takes, from 0.7 to 1.5: its own number, so that all else in the demo stays as it is. */
const takeShare = (attempt: AttemptId): number => 0.7 + 0.8 * createRandom(toSeed(attempt))();

/** What the tester wrote at the step. */
function getNote(stop: StopPlan['by'] | undefined, defectOf: RunSimulation['defectOf']): string {
  if (stop?.kind === 'block') return stop.why;
  if (stop?.kind === 'failure') return stop.seen;
  return stop?.kind === 'defect' ? (defectOf.get(stop.key)?.seen ?? '') : '';
}

/** The last step that says what should be seen: there it shows. */
function findTellingStep(version: TestVersionRow, on?: string): number {
  const telling = version.steps.findLastIndex((step) =>
    on === undefined ? step.expect !== undefined || step.do === 'see' : step.target === on,
  );
  return Math.max(0, telling);
}

function createKept({ run, random }: RunSimulation, field: Field): string {
  const { values } = run;
  if (field.name === 'Pipe length') return values['Length measured'] ?? '10';
  if (field.name === 'Deposit due') return formatCents(Math.round(Number(values['Charge expected'] ?? '480') * 50));
  if (field.name === 'Meter hours') return values['Hours run'] ?? '1200';
  if (field.type === 'code') return createFreshValue(field.pattern ?? '9999', random);
  if (field.type === 'money') return formatCents(5_000 + Math.floor(random() * 80_000));
  return String(500 + Math.floor(random() * 20_000));
}

function assess({ turns, momentAt, fate, defectOf }: RunSimulation, tries: readonly NewAttempt[]): Pick<SimulatedRun, 'turns' | 'outcome'> {
  const latest = new Map(tries.map((attempt) => [attempt.turnId, attempt]));
  const stoppedBy = fate.stop?.kind === 'defect' ? defectOf.get(fate.stop.key) : undefined;
  const isRetestDue = (turn: NewTurn) => stoppedBy !== undefined && isAtRetest(stoppedBy.status) && turn.index === fate.cut;
  const views = turns.map((turn) => {
    const row = { ...turn, isRetestDue: isRetestDue(turn) } as Parameters<typeof toTurnView>[0];
    return toTurnView(row, latest as unknown as Parameters<typeof toTurnView>[1], new Set());
  });
  const assessment = assessRun(views);
  const doneAt = (index: number) => latest.get(turns[index]?.id as TurnId)?.finishedAt ?? null;
  const readied = turns.map((turn, index) => {
    const is = assessment.turns[index];
    const before = turn.after.flatMap((place) => doneAt(place) ?? []);
    const readyAt = is?.state === 'ready' ? (before.sort((a, b) => b.getTime() - a.getTime())[0] ?? momentAt(0)) : null;
    return {
      ...turn,
      ...{ state: is?.state, outcome: is?.outcome, status: is?.status, causes: [...(is?.causes ?? [])], isRetestDue: isRetestDue(turn) },
      ...{ readyAt, doneAt: doneAt(index) },
    };
  });
  return { turns: readied, outcome: assessment.outcome };
}
