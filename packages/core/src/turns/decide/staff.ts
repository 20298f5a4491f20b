import type { TurnId } from '../../ids.ts';
import type { StepOutcome } from '../../outcomes.ts';
import { letsOn } from '../../outcomes.ts';
import type { Decide, Effect } from './event.ts';
import { accept } from './event.ts';
import { endAttempt } from './finish.ts';
import type { TurnFacts } from './runs-state.ts';
import { withTurns } from './runs-state.ts';

/** Turns go to people, or to nobody. What is under way stays with whoever does it. */
export const give: Decide<'give'> = (state, { turns }) => {
  const wanted = new Map(turns.map((item) => [item.turn, item]));
  const changes = new Map<TurnId, Partial<TurnFacts>>();
  for (const run of state.runs)
    for (const turn of run.turns) {
      const to = wanted.get(turn.id);
      if (to && turn.open === null && (to.personId !== turn.assigneeId || to.dueOn !== turn.dueOn))
        changes.set(turn.id, { assigneeId: to.personId, dueOn: to.dueOn });
    }
  return accept(withTurns(state, changes));
};

const LEFT: StepOutcome = 'blocked';

/**
 * Somebody leaves: turns of hers that are not through go to another person or to nobody, and an attempt that she had under way ends as blocked
 * and may be made anew at once.
 */
export const leave: Decide<'leave'> = (state, { personId, handTo }, { atMs }) => {
  const changes = new Map<TurnId, Partial<TurnFacts>>();
  const effects: Effect[] = [];
  for (const run of state.runs) {
    if (run.cycle.state === 'closed') continue;
    for (const turn of run.turns) {
      const change: { -readonly [Name in keyof TurnFacts]?: TurnFacts[Name] } = {};
      if (turn.open?.personId === personId) {
        change.latest = endAttempt(turn.open, { outcome: LEFT, atMs, isAbandoned: true });
        change.open = null;
      }
      const outcome = change.latest?.outcome ?? turn.latest?.outcome;
      if (turn.assigneeId === personId && !letsOn(outcome)) {
        change.assigneeId = handTo;
        effects.push({
          ...{ kind: 'history', subject: 'turn', subjectId: turn.id, action: 'passed on' },
          details: { from: personId, to: handTo, word: 'She has left the programme.' },
        });
      }
      if (Object.keys(change).length > 0) changes.set(turn.id, change);
    }
  }
  return accept(withTurns(state, changes), effects);
};

/** Turns that nobody has begun take another version, with the needs found anew. */
export const repin: Decide<'repin'> = (state, { version, turns }) =>
  accept(
    withTurns(state, new Map(turns.map(({ turn, versionId, needs }) => [turn, { versionId, needs, hasSteps: true }]))),
    turns.map(({ turn }) => ({
      ...{ kind: 'history' as const, subject: 'turn' as const, subjectId: turn },
      ...{ action: 'took a newer version over', details: { version } },
    })),
  );
