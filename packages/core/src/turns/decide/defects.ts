import { isAtRetest, isHolding, listDefectMoves } from '../../defects/defect.ts';
import type { DefectStatus } from '../../defects/defect.ts';
import type { DefectId } from '../../ids.ts';
import type { Decide } from './event.ts';
import { accept, refuse } from './event.ts';
import type { DefectFacts, DefectTurn, RunsState } from './runs-state.ts';
import { findTurn } from './runs-state.ts';
import { clearRetests } from './settle-runs.ts';

/** A person moves a defect. *Fixed* gives every turn that nothing else holds back to its tester. */
export const moveDefect: Decide<'move defect'> = (state, { defect: id, from, to, reason }) => {
  const defect = state.defects.find((candidate) => candidate.id === id);
  if (!defect) return refuse('not found', 'There is no such defect in this programme.');
  const { code, status } = defect;
  if (status !== from) return refuse('conflict', `${code} is ${status} by now, not ${from}.`);
  if (!listDefectMoves(from).includes(to)) return refuse('invalid', `A defect that is ${from} cannot become ${to}.`);
  const waiting = to === 'closed' ? findRetestToCome(state, defect) : undefined;
  if (waiting) return refuse('conflict', `${code} is closed by its retests, and ${waiting} is still to be tested again.`);
  return accept(withDefect(state, id, { status: to, reason: reason || defect.reason, turns: setRetests(state, defect, to) }), [
    { kind: 'history', subject: 'defect', subjectId: id, action: to, details: { from, reason } },
  ]);
};

function setRetests(state: RunsState, { turns }: DefectFacts, to: DefectStatus): readonly DefectTurn[] {
  if (to === 'closed') return turns;
  if (!isAtRetest(to)) return clearRetests(turns);
  return turns.map(({ turn }) => ({ turn, retestAfter: findTurn(state, turn)?.turn.latest?.number ?? 0 }));
}

/** The title of a turn whose retest will say whether a fixed defect is gone. */
function findRetestToCome(state: RunsState, { turns }: DefectFacts): string | undefined {
  return turns.map(({ turn }) => findTurn(state, turn)).find((found) => found?.run.cycle.state !== 'closed' && found?.turn.isRetestDue)
    ?.turn.title;
}

export const logDefect: Decide<'log defect'> = (state, { defect: id, code, title, turn }) => {
  if (state.defects.some((known) => known.id === id)) return accept(state);
  const defect: DefectFacts = { id, code, title, status: 'new', reason: '', assigneeId: null, turns: [{ turn, retestAfter: null }] };
  return accept({ ...state, defects: [...state.defects, defect] }, [
    { kind: 'history', subject: 'defect', subjectId: id, action: 'logged', details: { code, title } },
  ]);
};

/** A failing attempt is of a defect that is known: the turn waits for the same fix. */
export const joinDefect: Decide<'join defect'> = (state, { defect: id, turn, step }) => {
  const defect = state.defects.find((candidate) => candidate.id === id);
  if (!defect) return refuse('not found', 'There is no such defect in this programme.');
  const { code, status, turns } = defect;
  if (!isHolding(status))
    return refuse(
      'conflict',
      `${code} is ${status}. ${isAtRetest(status) ? 'If it is still there, log it again or have it reopened.' : 'Log a new defect, and link the two.'}`,
    );
  const isJoined = turns.some((known) => known.turn === turn);
  return accept(isJoined ? state : withDefect(state, id, { turns: [...turns, { turn, retestAfter: null }] }), [
    { kind: 'history', subject: 'defect', subjectId: id, action: 'seen again', details: { turn, step } },
  ]);
};

function withDefect(state: RunsState, id: DefectId, change: Partial<DefectFacts>): RunsState {
  return { ...state, defects: state.defects.map((defect) => (defect.id === id ? { ...defect, ...change } : defect)) };
}
