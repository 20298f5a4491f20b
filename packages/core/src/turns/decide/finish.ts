import { findMissing } from '../../cycles/rules.ts';
import { isOver } from '../../defects/defect.ts';
import type { AttemptId } from '../../ids.ts';
import type { StepOutcome } from '../../outcomes.ts';
import { getAttemptOutcome } from '../../outcomes.ts';
import type { Decide, Decision } from './event.ts';
import { accept, refuse } from './event.ts';
import type { AttemptSheet, FinishedAttempt, OpenAttempt, RunFacts, RunsState, TurnFacts } from './runs-state.ts';
import { listDefectsOf, withTurns } from './runs-state.ts';

/** The outcome follows from the steps; what the cycle asks for with an attempt must be there. */
export const finish: Decide<'finish'> = (state, event, { by, atMs }) => {
  const isDone = state.runs.some((run) => run.turns.some(({ latest }) => latest?.id === event.attempt && latest.personId === by.personId));
  if (isDone) return accept(state);
  const found = findOpen(state, event.attempt);
  if (!found) return refuse('not found', 'There is no such attempt in this programme.');
  const { run, turn, open } = found;
  if (open.personId !== by.personId) return refuse('forbidden', 'This attempt is somebody else’s.');
  if (run.cycle.state === 'closed')
    return refuse(
      'conflict',
      `Cycle ${run.cycle.code} was closed meanwhile. What you recorded is kept with this attempt, but it no longer counts. Tell the lead.`,
    );
  const sheet = state.sheets.find(({ attemptId }) => attemptId === event.attempt);
  const outcome = sheet ? readOutcome(sheet) : 'unfinished';
  if (!sheet || outcome === 'unfinished') return refuse('invalid', nameUnfinished(sheet));
  // A failure that a runner saw waits for a person's eye: she logs the defect.
  const missing = by.runnerId === null ? listMissing(state, run, turn, sheet) : [];
  if (missing.length > 0) return refuse('invalid', missing.join(' '));
  const decision = end(state, turn, endAttempt(open, { outcome, atMs, isAbandoned: false }));
  if (!decision.ok || outcome !== 'blocked') return decision;
  const why = sheet.results.find((result) => result.outcome === 'blocked')?.note ?? '';
  return accept(decision.state, [...decision.effects, { kind: 'tell blocked', turn: turn.id, why }]);
};

interface End {
  readonly outcome: StepOutcome;
  readonly atMs: number;
  readonly isAbandoned: boolean;
}

/** An attempt ends at the moment, or a little after it began where clocks disagree. */
export function endAttempt(open: OpenAttempt, { outcome, atMs, isAbandoned }: End): FinishedAttempt {
  const { id, number, personId, kept, versionId, seedId } = open;
  return { ...{ id, number, personId, kept, versionId, seedId, outcome, isAbandoned }, finishedAtMs: atMs };
}

function end(state: RunsState, turn: TurnFacts, latest: FinishedAttempt): Decision {
  return accept(withTurns(state, new Map([[turn.id, { open: null, latest }]])), [
    {
      ...{ kind: 'history', subject: 'turn', subjectId: turn.id, action: `attempt ${latest.outcome}` },
      details: { attempt: latest.id, kept: latest.kept },
    },
  ]);
}

export function findOpen(state: RunsState, id: AttemptId): { run: RunFacts; turn: TurnFacts; open: OpenAttempt } | undefined {
  for (const run of state.runs) for (const turn of run.turns) if (turn.open?.id === id) return { run, turn, open: turn.open };
  return undefined;
}

const outcomeAt = ({ results }: AttemptSheet, index: number) => results.find(({ stepIndex }) => stepIndex === index)?.outcome ?? null;

function readOutcome(sheet: AttemptSheet): StepOutcome | 'unfinished' {
  return getAttemptOutcome(sheet.steps.map((step, index) => ({ optional: step.optional === true, outcome: outcomeAt(sheet, index) })));
}

function nameUnfinished(sheet: AttemptSheet | undefined): string {
  const missing = (sheet?.steps ?? []).flatMap((step, index) =>
    !step.optional && sheet && outcomeAt(sheet, index) === null ? [index + 1] : [],
  );
  return `Say first how ${missing.length === 1 ? 'step' : 'steps'} ${missing.join(', ') || '1'} went.`;
}

function listMissing(state: RunsState, run: RunFacts, turn: TurnFacts, sheet: AttemptSheet): string[] {
  return findMissing(run.cycle.rules, {
    steps: sheet.steps.map((_, index) => ({
      outcome: outcomeAt(sheet, index),
      note: sheet.results.find(({ stepIndex }) => stepIndex === index)?.note ?? '',
      pictures: sheet.pictures.get(index) ?? 0,
    })),
    defects: listDefectsOf(state, turn.id).filter(({ status }) => !isOver(status)).length,
  });
}
