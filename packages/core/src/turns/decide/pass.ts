import type { PersonId } from '../../ids.ts';
import { hasRight } from '../../programmes/roles.ts';
import type { Decide, Receiver, Refusal } from './event.ts';
import { accept, NO_TURN, refuse } from './event.ts';
import type { Doer, RunFacts, TurnFacts } from './runs-state.ts';
import { findTurn, withTurns } from './runs-state.ts';

/**
 * Gives a turn to somebody, with a word: the lead any turn, a tester her own to somebody of its lane, or one of her lane to herself. One that is
 * under way stays with whoever does it.
 */
export const pass: Decide<'pass'> = (state, { turn: id, to, word }, { by }) => {
  const found = findTurn(state, id);
  if (!found) return NO_TURN;
  const { run, turn } = found;
  if (run.cycle.state === 'closed') return refuse('conflict', `Cycle ${run.cycle.code} is closed; its turns stay as they are.`);
  if (turn.open) return refuse('conflict', `${turn.title} is under way; it can be given to somebody else once that attempt is finished.`);
  const refusal = findPassRefusal(turn, to, by) ?? findFourEyesRefusal(run, turn, to.personId);
  if (refusal) return { ok: false, refusal };
  const from = turn.assigneeId;
  return accept(withTurns(state, new Map([[turn.id, { assigneeId: to.personId }]])), [
    { kind: 'history', subject: 'turn', subjectId: turn.id, action: 'passed on', details: { from, to: to.personId, word } },
    { kind: 'tell passed on', turn: turn.id, from, to: to.personId, word },
  ]);
};

function findPassRefusal(turn: TurnFacts, to: Receiver, by: Doer): Refusal | null {
  if (hasRight(by.roles, 'run cycles')) return null;
  const isInLane = (teams: Receiver['teams']) => turn.teamId !== null && teams.includes(turn.teamId);
  const isHers = turn.assigneeId === by.personId;
  const isHandedOver = isHers && (to.isPool || isInLane(to.teams));
  const isTaken = to.personId === by.personId && isInLane(by.teams);
  if (isHandedOver || isTaken) return null;
  return {
    code: 'forbidden',
    message: isHers
      ? 'You can hand this turn to somebody of its lane, or to runners. Ask the lead for anybody else.'
      : 'You can take turns of your own lane. Ask the lead for this one.',
  };
}

/** Four eyes: who does one of two legs that must not be done by the same person cannot get the other. */
export function findFourEyesRefusal(run: RunFacts, turn: TurnFacts, personId: PersonId): Refusal | null {
  const barred = run.turns.find(
    (mate) => mate.assigneeId === personId && (turn.otherPersonThan.includes(mate.index) || mate.otherPersonThan.includes(turn.index)),
  );
  if (!barred) return null;
  return {
    code: 'invalid',
    message: `${turn.title} must not be done by whoever does leg ${barred.index + 1}, ${barred.title}, which that person has. Choose somebody else.`,
  };
}
