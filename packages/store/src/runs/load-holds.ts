import { and, asc, eq, inArray, isNotNull, lt, or } from 'drizzle-orm';
import { addWorkingDays, toDay } from '@kindred-baton/core/time/calendar';
import { DEFECT_STATUSES, isHolding } from '@kindred-baton/core/defects/defect';
import type { CycleId, DefectId, NodeId, TurnId } from '@kindred-baton/core/ids';
import type { Hold, HoldTurn } from '@kindred-baton/core/progress/find-holds';
import { findHolds } from '@kindred-baton/core/progress/find-holds';
import { pushTo } from '@kindred-baton/core/push-to';
import type { ReadContext } from '../operation.ts';
import { runs } from '../schema/cycles.ts';
import type { DefectRow } from '../schema/defects.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { turns } from '../schema/turns.ts';
import { isRunInScope } from './in-scope.ts';

const WEEKDAYS = { workingDays: [1, 2, 3, 4, 5], holidays: [] };

/** A ready turn that has lain for more than a whole working day after it was due holds the baton: testers work beside their real jobs. */
function getIdleMoment(now: Date, timeZone: string): number {
  return Date.parse(`${addWorkingDays(toDay(now.getTime(), timeZone), -1, WEEKDAYS)}T00:00:00Z`);
}

/** A ready turn lies idle from the day on which it is due: before that it holds nobody. */
function getIdleSince(readyAt: Date | null, dueOn: string | null): number | null {
  return readyAt === null ? null : Math.max(readyAt.getTime(), dueOn === null ? 0 : Date.parse(`${dueOn}T00:00:00Z`));
}

export interface HeldTurn extends HoldTurn {
  readonly id: TurnId;
  readonly title: string;
  readonly nodeId: NodeId;
}

export interface HeldRuns {
  /** The turns of the runs in which the baton is held, by id. */
  readonly turns: ReadonlyMap<string, HeldTurn>;
  readonly holds: readonly Hold[];
  readonly defects: ReadonlyMap<DefectId, Pick<DefectRow, 'id' | 'code' | 'title'>>;
}

/** Where the baton is held in a cycle. Only the runs in which it is are loaded, since a hold lies within its runs. Two queries. */
export async function loadHolds({ db, now, actor }: ReadContext, cycleId: CycleId): Promise<HeldRuns> {
  const idleBeforeMs = getIdleMoment(now, actor.timeZone);
  const mayBeIdle = and(eq(turns.status, 'ready'), isNotNull(turns.assigneeId), lt(turns.readyAt, new Date(idleBeforeMs)));
  const held = db
    .select({ runId: turns.runId })
    .from(turns)
    .where(and(eq(turns.cycleId, cycleId), or(inArray(turns.status, ['failed', 'blocked']), mayBeIdle)));
  const [turnRows, defectRows] = await Promise.all([
    db
      .select({
        id: turns.id,
        title: turns.title,
        run: turns.runId,
        index: turns.index,
        after: turns.after,
        status: turns.status,
        minutes: turns.minutes,
        nodeId: turns.nodeId,
        team: turns.teamId,
        assignee: turns.assigneeId,
        readyAt: turns.readyAt,
        dueOn: turns.dueOn,
        doneAt: turns.doneAt,
      })
      .from(turns)
      .innerJoin(runs, eq(runs.id, turns.runId))
      .where(and(eq(turns.cycleId, cycleId), isRunInScope, inArray(turns.runId, held)))
      .orderBy(asc(runs.number), asc(turns.index)),
    db
      .select({ turnId: defectTurns.turnId, id: defects.id, code: defects.code, title: defects.title })
      .from(defects)
      .innerJoin(defectTurns, eq(defectTurns.defectId, defects.id))
      .where(and(eq(defects.cycleId, cycleId), inArray(defects.status, DEFECT_STATUSES.filter(isHolding)))),
  ]);
  const open = new Map<TurnId, DefectId[]>();
  for (const { turnId, id } of defectRows) pushTo(open, turnId, id);
  const heldTurns: HeldTurn[] = turnRows.map((row) => ({
    ...row,
    team: row.team ?? '',
    defects: open.get(row.id) ?? [],
    sinceMs: row.doneAt?.getTime() ?? getIdleSince(row.readyAt, row.dueOn),
  }));
  return {
    turns: new Map(heldTurns.map((turn) => [turn.id, turn])),
    holds: findHolds(heldTurns, { idleBeforeMs }),
    defects: new Map(defectRows.map((defect) => [defect.id, defect])),
  };
}
