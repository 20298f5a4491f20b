import { canAttempt } from '@kindred-baton/core/cycles/cycle';
import type { DefectStatus } from '@kindred-baton/core/defects/defect';
import { isHolding } from '@kindred-baton/core/defects/defect';
import { hasRight } from '@kindred-baton/core/programmes/roles';
import type { PersonId, TurnId } from '@kindred-baton/core/ids';
import { and, desc, eq, isNotNull } from 'drizzle-orm';
import type { Actor } from '../actor.ts';
import type { ReadContext } from '../operation.ts';
import { teamMembers } from '../schema/programmes.ts';
import type { CycleRow } from '../schema/cycles.ts';
import type { TurnRow } from '../schema/turns.ts';
import { attempts } from '../schema/turns.ts';

export interface AttemptQuestion {
  readonly turn: TurnRow;
  readonly cycle: CycleRow;
  readonly actor: Actor;
  readonly defects: readonly { readonly code: string; readonly status: DefectStatus }[];
  /** Whether she is of the turn's team. */
  readonly isInLane: boolean;
  /** Who made the newest finished attempt. */
  readonly lastPerson: PersonId | null;
}

/** Why this person may not make an attempt at this turn now, as a sentence; null when she may. */
export function findRefusal({ turn, cycle, actor, defects, isInLane, lastPerson }: AttemptQuestion): string | null {
  const isRetest = turn.outcome !== 'not run';
  if (!hasRight(actor.roles, 'make attempts')) return `Your role (${actor.roles.join(', ')}) only looks on.`;
  if (!canAttempt(cycle.state, isRetest)) {
    return cycle.state === 'closing'
      ? `Cycle ${cycle.code} is closing: only retests are made.`
      : `Cycle ${cycle.code} is ${cycle.state}; attempts are made while it is open.`;
  }
  const mayRecord = turn.assigneeId === actor.personId || hasRight(actor.roles, 'run cycles') || (cycle.rules.laneMayRecord && isInLane);
  if (!mayRecord) return 'This turn is with somebody else.';
  if (isRetest && lastPerson !== null) {
    if (cycle.rules.retestBy === 'the same person' && lastPerson !== actor.personId)
      return 'In this cycle a retest is made by whoever made the attempt before.';
    if (cycle.rules.retestBy === 'another person' && lastPerson === actor.personId)
      return 'In this cycle a retest is made by another person than the attempt before. Hand it over.';
  }
  if (turn.versionId === null && turn.bare === null) return 'This leg has no test yet.';
  if (turn.state === 'waiting') return turn.status === 'held' ? 'This turn is held.' : 'This turn still waits for the one before it.';
  if (turn.state !== 'done') return null;
  const holding = defects.filter(({ status }) => isHolding(status)).map(({ code }) => code);
  if (holding.length > 0) return `${holding.join(', ')} must be fixed first; then this turn comes back to you.`;
  return turn.outcome === 'passed' ? 'This turn has passed.' : null;
}

export async function findIsInLane({ db, actor }: Pick<ReadContext, 'db' | 'actor'>, turn: Pick<TurnRow, 'teamId'>): Promise<boolean> {
  if (turn.teamId === null) return false;
  const rows = await db
    .select({ personId: teamMembers.personId })
    .from(teamMembers)
    .where(and(eq(teamMembers.teamId, turn.teamId), eq(teamMembers.personId, actor.personId)));
  return rows.length > 0;
}

export async function findLastPerson({ db }: Pick<ReadContext, 'db'>, turnId: TurnId): Promise<PersonId | null> {
  const [last] = await db
    .select({ personId: attempts.personId })
    .from(attempts)
    .where(and(eq(attempts.turnId, turnId), isNotNull(attempts.finishedAt)))
    .orderBy(desc(attempts.number))
    .limit(1);
  return last?.personId ?? null;
}
