import { isLive, skipsRest } from '../../cycles/cycle.ts';
import { decideAfterRetest, isAtRetest, isHolding } from '../../defects/defect.ts';
import type { TurnId } from '../../ids.ts';
import { isTrouble } from '../../outcomes.ts';
import { pushTo } from '../../push-to.ts';
import { assessRun } from '../assess-run.ts';
import type { TurnAssessment, TurnView } from '../turn.ts';
import type { DefectFacts, DefectTurn, RunFacts, RunsState, TurnFacts } from './runs-state.ts';

/**
 * What follows from attempts, defects and scope, worked out anew: where every turn stands, what each run came to, and which fixed defects their
 * retests closed or opened again. Doing it twice changes nothing more. A defect of which not every turn is in the
 * state is not judged. Cost O(turns × predecessors + defects × their turns).
 */
export function settleRuns(state: RunsState, atMs: number): RunsState {
  const settled = settleTurns(state, atMs);
  const defects = settleDefects(settled);
  // A defect that opened again holds its turns; those it closed let none go that was not free before.
  return defects === settled.defects ? settled : settleTurns({ ...settled, defects }, atMs);
}

function settleTurns(state: RunsState, atMs: number): RunsState {
  const defectsOf = new Map<TurnId, DefectFacts[]>();
  for (const defect of state.defects) for (const { turn } of defect.turns) pushTo(defectsOf, turn, defect);
  return { ...state, runs: state.runs.map((run) => (isLive(run.cycle.state) ? settleRun(run, defectsOf, atMs) : run)) };
}

function settleRun(run: RunFacts, defectsOf: ReadonlyMap<TurnId, readonly DefectFacts[]>, atMs: number): RunFacts {
  const turns = run.turns.map((turn) => ({ ...turn, isRetestDue: findIsRetestDue(turn, defectsOf.get(turn.id) ?? []) }));
  const assessment = assessRun(turns.map((turn) => toTurnView(turn, run)));
  return {
    ...run,
    outcome: assessment.outcome,
    turns: turns.map((turn, index) => {
      const is = assessment.turns[index];
      return is ? { ...turn, ...is, ...toMoments(turn, is, atMs) } : turn;
    }),
  };
}

function toTurnView(turn: TurnFacts, run: Pick<RunFacts, 'leftTo'>): TurnView {
  const { after, needs, latest, open, isRetestDue: isDue } = turn;
  return { after, needs, latest, isUnderWay: open !== null, isRetestDue: isDue, isLeftOut: skipsRest(run.leftTo) };
}

function toMoments(turn: TurnFacts, is: TurnAssessment, atMs: number): Pick<TurnFacts, 'readyAtMs' | 'doneAtMs'> {
  return {
    readyAtMs: is.state === 'ready' && turn.state !== 'ready' ? atMs : turn.readyAtMs,
    doneAtMs: is.outcome === 'not run' ? null : (turn.latest?.finishedAtMs ?? turn.doneAtMs ?? atMs),
  };
}

/**
 * A failed or blocked turn is to be tried again once no open defect holds it and one was fixed after the attempt, when whoever made that
 * attempt left in the middle of it, or when somebody said that what blocked it is out of the way. Which of several defects was fixed last does not matter.
 */
function findIsRetestDue(
  { id, latest, liftedAfter }: Pick<TurnFacts, 'id' | 'latest' | 'liftedAfter'>,
  defects: readonly DefectFacts[],
): boolean {
  if (latest === null || !isTrouble(latest.outcome)) return false;
  if (defects.some(({ status }) => isHolding(status))) return false;
  const isLifted = latest.outcome === 'blocked' && liftedAfter !== null && liftedAfter >= latest.number;
  return latest.isAbandoned || isLifted || defects.some((defect) => isAtRetest(defect.status) && !isTriedSince(defect, id, latest.number));
}

function settleDefects(state: RunsState): readonly DefectFacts[] {
  const at = new Map(state.runs.flatMap((run) => run.turns.map((turn) => [turn.id, turn] as const)));
  let isChanged = false;
  const defects = state.defects.map((defect) => {
    if (!defect.turns.every(({ turn }) => at.has(turn))) return defect;
    const status = decideAfterRetest(
      defect.status,
      defect.turns.map(({ turn }) => toRetest(at.get(turn), defect)),
    );
    if (status === defect.status) return defect;
    isChanged = true;
    return status === 'closed' ? { ...defect, status } : { ...defect, status, turns: clearRetests(defect.turns) };
  });
  return isChanged ? defects : state.defects;
}

/** Only what was tried after the fix says anything about it. */
function toRetest(turn: TurnFacts | undefined, defect: DefectFacts): 'passed' | 'failed' | 'to come' {
  if (!turn?.latest || turn.latest.outcome === 'blocked' || !isTriedSince(defect, turn.id, turn.latest.number)) return 'to come';
  return turn.latest.outcome === 'failed' ? 'failed' : 'passed';
}

function isTriedSince({ turns }: DefectFacts, id: TurnId, number: number): boolean {
  const retestAfter = turns.find(({ turn }) => turn === id)?.retestAfter ?? null;
  return retestAfter !== null && number > retestAfter;
}

/** A defect that is open again waits for its next fix. */
export function clearRetests(turns: readonly DefectTurn[]): DefectTurn[] {
  return turns.map(({ turn }) => ({ turn, retestAfter: null }));
}
