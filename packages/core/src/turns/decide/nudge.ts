import { isHolding } from '../../defects/defect.ts';
import type { PersonId } from '../../ids.ts';
import { isTrouble } from '../../outcomes.ts';
import { hasRight } from '../../programmes/roles.ts';
import type { Refusal } from './event.ts';
import type { DefectFacts, Doer, RunFacts, TurnFacts } from './runs-state.ts';

/** Hours that pass between two nudges about one turn. */
const NUDGES_APART_HOURS = 20;

export interface NudgeQuestion {
  readonly run: Pick<RunFacts, 'turns'>;
  readonly turn: TurnFacts;
  readonly asked: Asked;
  readonly by: Doer;
  readonly lastNudgeMs: number | null;
  readonly atMs: number;
}

/** Who is to go on at a turn. */
export interface Asked {
  /** null: nobody yet. */
  readonly id: PersonId | null;
  /** The defect that is to be fixed first; null: the turn itself. */
  readonly defect: string | null;
}

/** Of a turn that a defect holds it is whoever fixes that, of any other whoever it is given to. */
export function findAsked(
  turn: Pick<TurnFacts, 'assigneeId'>,
  defects: readonly Pick<DefectFacts, 'code' | 'status' | 'assigneeId'>[],
): Asked {
  const holding = defects.filter(({ status }) => isHolding(status));
  const defect = holding.find(({ assigneeId }) => assigneeId !== null) ?? holding[0];
  return defect ? { id: defect.assigneeId, defect: defect.code } : { id: turn.assigneeId, defect: null };
}

/** Why nobody may be asked about a turn now; null when it may: by somebody who waits for it, or by the lead, once a day. */
export function findNudgeRefusal({ run, turn, asked, by, lastNudgeMs, atMs }: NudgeQuestion): Refusal | null {
  const { id, defect } = asked;
  if (id === null)
    return {
      code: 'invalid',
      message:
        defect === null ? 'Nobody has this turn. Ask the lead to give it to somebody.' : `Nobody fixes ${defect} yet. Give it to somebody.`,
    };
  if (id === by.personId) return { code: 'invalid', message: defect === null ? 'This turn is with you.' : `${defect} is with you.` };
  if (turn.state === 'waiting' || (turn.state === 'done' && !isTrouble(turn.outcome)))
    return { code: 'invalid', message: 'The baton is not at this turn now.' };
  if (!findWaiting(run, by) && !hasRight(by.roles, 'run cycles')) return { code: 'forbidden', message: 'You do not wait for this turn.' };
  if (lastNudgeMs !== null && lastNudgeMs > atMs - NUDGES_APART_HOURS * 3_600_000)
    return {
      code: 'conflict',
      message: 'Somebody asked about this turn within the last day. Give it until tomorrow, or speak to each other.',
    };
  return null;
}

/** The own turn of a run that still waits. */
export function findWaiting(run: Pick<RunFacts, 'turns'>, by: Pick<Doer, 'personId'>): TurnFacts | undefined {
  return run.turns.find(({ assigneeId, state }) => assigneeId === by.personId && state === 'waiting');
}
