import { canAttempt, getLeavingLabel } from '../../cycles/cycle.ts';
import type { LeavingWay } from '../../cycles/cycle.ts';
import { isHolding } from '../../defects/defect.ts';
import type { AttemptId, PersonId } from '../../ids.ts';
import type { Outcome, StepOutcome, TurnState, TurnStatus } from '../../outcomes.ts';
import { hasRight } from '../../programmes/roles.ts';
import type { Decide } from './event.ts';
import { accept, NO_TURN, refuse } from './event.ts';
import type { CycleFacts, DefectFacts, Doer, TurnFacts } from './runs-state.ts';
import { findTurn, listDefectsOf, withTurns } from './runs-state.ts';

export interface BeginQuestion {
  readonly turn: Pick<TurnFacts, 'assigneeId' | 'teamId' | 'hasSteps'> & {
    readonly state: TurnState;
    readonly status: TurnStatus;
    readonly outcome: Outcome;
  };
  readonly cycle: Pick<CycleFacts, 'code' | 'state' | 'rules'>;
  /** How its run left the cycle; null: it is in it. */
  readonly leftTo: LeavingWay | null;
  readonly by: Pick<Doer, 'personId' | 'roles' | 'teams'>;
  readonly defects: readonly Pick<DefectFacts, 'code' | 'status'>[];
  /** Who made the newest finished attempt. */
  readonly lastPerson: PersonId | null;
}

/** Why this person may not make an attempt at this turn now, as a sentence; null when she may. */
export function findBeginRefusal(question: BeginQuestion): string | null {
  const { by, cycle, turn } = question;
  const isRetest = turn.outcome !== 'not run';
  if (!hasRight(by.roles, 'make attempts')) return `Your role (${by.roles.join(', ')}) only looks on.`;
  if (!canAttempt(cycle.state, isRetest))
    return cycle.state === 'closing'
      ? `Cycle ${cycle.code} is closing: only retests are made.`
      : `Cycle ${cycle.code} is ${cycle.state}; attempts are made while it is open.`;
  if (question.leftTo !== null) return `This run was ${getLeavingLabel(question.leftTo)}; its turns are not tried any more.`;
  const isInLane = turn.teamId !== null && by.teams.includes(turn.teamId);
  const mayRecord = turn.assigneeId === by.personId || hasRight(by.roles, 'run cycles') || (cycle.rules.laneMayRecord && isInLane);
  if (!mayRecord) return 'This turn is with somebody else.';
  return (isRetest ? findRetestRefusal(question) : null) ?? findStateRefusal(question);
}

function findRetestRefusal({ by, cycle, lastPerson }: BeginQuestion): string | null {
  if (lastPerson === null) return null;
  if (cycle.rules.retestBy === 'the same person' && lastPerson !== by.personId)
    return 'In this cycle a retest is made by whoever made the attempt before.';
  if (cycle.rules.retestBy === 'another person' && lastPerson === by.personId)
    return 'In this cycle a retest is made by another person than the attempt before. Hand it over.';
  return null;
}

function findStateRefusal({ turn, defects }: BeginQuestion): string | null {
  if (!turn.hasSteps) return 'This leg has no test yet.';
  if (turn.state === 'waiting') return turn.status === 'held' ? 'This turn is held.' : 'This turn still waits for the one before it.';
  if (turn.state !== 'done') return null;
  const holding = defects.filter(({ status }) => isHolding(status)).map(({ code }) => code);
  if (holding.length > 0) return `${holding.join(', ')} must be fixed first; then this turn comes back to you.`;
  return turn.outcome === 'passed' ? 'This turn has passed.' : null;
}

interface ToContinue {
  readonly latest: { readonly id: AttemptId; readonly outcome: StepOutcome | null; readonly versionId: TurnFacts['versionId'] } | null;
  readonly versionId: TurnFacts['versionId'];
}

/** The newest attempt, where it stopped before its end and its steps are still those of the turn. */
export function canContinue({ latest, versionId }: ToContinue, id: AttemptId): boolean {
  return latest?.id === id && latest.outcome === 'blocked' && latest.versionId === versionId;
}

export const begin: Decide<'begin'> = (state, event, { by, atMs }) => {
  const found = findTurn(state, event.turn);
  if (!found) return NO_TURN;
  const { turn, run } = found;
  if (turn.open?.id === event.attempt || turn.latest?.id === event.attempt) return accept(state);
  if (turn.open) return refuse('conflict', `${turn.open.personName} has an attempt at this turn under way.`);
  const refusal = findBeginRefusal({
    ...{ turn, cycle: run.cycle, leftTo: run.leftTo, by, defects: listDefectsOf(state, turn.id) },
    lastPerson: turn.latest === null || turn.latest.isAbandoned ? null : turn.latest.personId,
  });
  if (refusal !== null) return refuse('conflict', refusal);
  const from = event.continues === null ? null : turn.latest;
  if (event.continues !== null && !canContinue(turn, event.continues))
    return refuse('conflict', 'That attempt cannot be gone on with any more: begin anew.');
  const number = (turn.latest?.number ?? 0) + 1;
  const { environment, browser, isFromSheet } = event;
  const open = {
    ...{ id: event.attempt, number, personId: by.personId, personName: by.name, kept: from?.kept ?? {}, versionId: turn.versionId },
    ...{ environment, browser, isFromSheet, startedAtMs: atMs, isWithRunners: by.runnerId !== null, runnerId: by.runnerId },
    ...{ continuesId: event.continues, seedId: from?.seedId ?? event.attempt },
  };
  return accept(withTurns(state, new Map([[turn.id, { open }]])), [
    { kind: 'history', subject: 'turn', subjectId: turn.id, action: 'attempt begun', details: { attempt: event.attempt, number } },
  ]);
};
