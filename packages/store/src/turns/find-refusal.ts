import { canAttempt } from '@kindred-baton/core/cycles/cycle';
import type { DefectStatus } from '@kindred-baton/core/defects/defect';
import { isHolding } from '@kindred-baton/core/defects/defect';
import { hasRight } from '@kindred-baton/core/programmes/roles';
import type { Actor } from '../actor.ts';
import type { CycleRow } from '../schema/cycles.ts';
import type { TurnRow } from '../schema/turns.ts';

export interface AttemptQuestion {
  readonly turn: TurnRow;
  readonly cycle: CycleRow;
  readonly actor: Actor;
  readonly defects: readonly { readonly code: string; readonly status: DefectStatus }[];
}

/** Why this person may not make an attempt at this turn now, as a sentence; null when she may. */
export function findRefusal({ turn, cycle, actor, defects }: AttemptQuestion): string | null {
  const isRetest = turn.outcome !== 'not run';
  if (!hasRight(actor.roles, 'make attempts')) return `Your role (${actor.roles.join(', ')}) only looks on.`;
  if (!canAttempt(cycle.state, isRetest)) {
    return cycle.state === 'closing'
      ? `Cycle ${cycle.code} is closing: only retests are made.`
      : `Cycle ${cycle.code} is ${cycle.state}; attempts are made while it is open.`;
  }
  if (turn.assigneeId !== actor.personId && !hasRight(actor.roles, 'run cycles')) return 'This turn is with somebody else.';
  if (turn.versionId === null) return 'This leg has no test yet.';
  if (turn.state === 'waiting') return turn.status === 'held' ? 'This turn is held.' : 'This turn still waits for the one before it.';
  if (turn.state !== 'done') return null;
  const holding = defects.filter(({ status }) => isHolding(status)).map(({ code }) => code);
  if (holding.length > 0) return `${holding.join(', ')} must be fixed first; then this turn comes back to you.`;
  return turn.outcome === 'passed' ? 'This turn has passed.' : null;
}
