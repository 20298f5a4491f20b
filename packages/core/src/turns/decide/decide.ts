import { isAtRetest } from '../../defects/defect.ts';
import type { TurnId } from '../../ids.ts';
import { begin } from './begin.ts';
import { joinDefect, logDefect, moveDefect } from './defects.ts';
import type { Decide, Decision, Effect, Moment, RunEvent } from './event.ts';
import { accept } from './event.ts';
import { finish } from './finish.ts';
import { leaveOut } from './leave-out.ts';
import { lift } from './lift.ts';
import { pass } from './pass.ts';
import type { RunsState, TurnFacts } from './runs-state.ts';
import { settleRuns } from './settle-runs.ts';
import { breakOff, handOver } from './hands.ts';
import { give, leave, repin } from './staff.ts';

const DECISIONS: { readonly [Kind in RunEvent['kind']]: Decide<Kind> } = {
  begin,
  finish,
  pass,
  'hand over': handOver,
  'break off': breakOff,
  lift,
  give,
  leave,
  'move defect': moveDefect,
  'log defect': logDefect,
  'join defect': joinDefect,
  'leave out': leaveOut,
  repin,
  start: (state) => accept(state),
};

/**
 * What an event makes of runs: the state after it with all that follows, and what is to be told; or a refusal. Pure: the same state, event and
 * moment give the same answer. Cost O(turns × predecessors).
 */
export function decide(state: RunsState, event: RunEvent, moment: Moment): Decision {
  const decision = (DECISIONS[event.kind] as Decide<RunEvent['kind']>)(state, event, moment);
  if (!decision.ok) return decision;
  const after = settleRuns(decision.state, moment.atMs);
  return { ok: true, state: after, effects: [...decision.effects, ...tellReady(state, after), ...tellDefects(decision.state, after)] };
}

/** Turns that have become ready are told to whoever has them: retests with the defect that was fixed, the others as batons. */
function tellReady(before: RunsState, after: RunsState): Effect[] {
  const wasReady = new Set(listTurns(before).flatMap(({ id, state }): TurnId[] => (state === 'ready' ? [id] : [])));
  const ready = listTurns(after).filter(({ id, state }) => state === 'ready' && !wasReady.has(id));
  const statusOf = new Map(before.defects.map(({ id, status }) => [id, status]));
  const fixed = after.defects.filter(({ id, status }) => isAtRetest(status) && statusOf.get(id) !== status);
  const retests = fixed.map(({ id, turns }): Effect => ({
    ...{ kind: 'tell fixed', defect: id },
    turns: ready.filter(({ id: turn, isRetestDue }) => isRetestDue && turns.some((link) => link.turn === turn)).map((turn) => turn.id),
  }));
  const batons = ready.filter(({ isRetestDue }) => !isRetestDue).map(({ id }) => id);
  return [...retests, ...(batons.length > 0 ? [{ kind: 'tell ready' as const, turns: batons }] : [])];
}

const listTurns = (state: RunsState): readonly TurnFacts[] => state.runs.flatMap(({ turns }) => turns);

/** What retests made of defects. */
function tellDefects(before: RunsState, after: RunsState): Effect[] {
  const statusOf = new Map(before.defects.map(({ id, status }) => [id, status]));
  return after.defects.flatMap(({ id, status }): Effect[] => {
    const from = statusOf.get(id);
    if (from === undefined || from === status) return [];
    const action = status === 'closed' ? 'retested and closed' : 'reopened by a retest';
    return [{ kind: 'history', subject: 'defect', subjectId: id, action, details: { from, to: status } }];
  });
}
