import { hasRight } from '../../programmes/roles.ts';
import type { Refusal } from './event.ts';
import type { Doer, RunFacts, TurnFacts } from './runs-state.ts';

/** Hours that pass between two nudges about one turn. */
const NUDGES_APART_HOURS = 20;

export interface NudgeQuestion {
  readonly run: Pick<RunFacts, 'turns'>;
  readonly turn: TurnFacts;
  /** Whoever has the turn; null: nobody. */
  readonly holder: string | null;
  readonly by: Doer;
  readonly lastNudgeMs: number | null;
  readonly atMs: number;
}

/** Why the holder of a turn may not be asked for it now; null when she may: by somebody who waits for it, or by the lead, once a day. */
export function findNudgeRefusal({ run, turn, holder, by, lastNudgeMs, atMs }: NudgeQuestion): Refusal | null {
  if (turn.assigneeId === null) return { code: 'invalid', message: 'Nobody has this turn. Ask the lead to give it to somebody.' };
  if (turn.assigneeId === by.personId) return { code: 'invalid', message: 'This turn is with you.' };
  if (turn.state !== 'ready' && turn.state !== 'under way') return { code: 'invalid', message: `${holder} does not have the baton now.` };
  if (!findWaiting(run, by) && !hasRight(by.roles, 'run cycles')) return { code: 'forbidden', message: 'You do not wait for this turn.' };
  if (lastNudgeMs !== null && lastNudgeMs > atMs - NUDGES_APART_HOURS * 3_600_000)
    return {
      code: 'conflict',
      message: `${holder} was nudged about this turn within the last day. Give it until tomorrow, or speak to each other.`,
    };
  return null;
}

/** The own turn of a run that still waits. */
export function findWaiting(run: Pick<RunFacts, 'turns'>, by: Pick<Doer, 'personId'>): TurnFacts | undefined {
  return run.turns.find(({ assigneeId, state }) => assigneeId === by.personId && state === 'waiting');
}
