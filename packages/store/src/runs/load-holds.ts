import { and, asc, eq } from 'drizzle-orm';
import { addWorkingDays, toDay } from '@kindred-baton/core/time/calendar';
import { isHolding } from '@kindred-baton/core/defects/defect';
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

export interface CycleTurn extends HoldTurn {
  readonly id: TurnId;
  readonly title: string;
  readonly nodeId: NodeId;
  readonly teamId: string;
  readonly scenarioId: string;
  readonly testId: string | null;
  readonly priority: string;
}

export interface CycleTurns {
  readonly turns: readonly CycleTurn[];
  readonly holds: readonly Hold[];
  readonly defects: ReadonlyMap<DefectId, DefectRow>;
}

/** Every turn in the scope of a cycle, and where the baton is held among them. Two queries. */
export async function loadHolds({ db, now, actor }: ReadContext, cycleId: CycleId): Promise<CycleTurns> {
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
        teamId: turns.teamId,
        testId: turns.testId,
        assignee: turns.assigneeId,
        readyAt: turns.readyAt,
        dueOn: turns.dueOn,
        doneAt: turns.doneAt,
        scenarioId: runs.scenarioId,
        priority: runs.priority,
      })
      .from(turns)
      .innerJoin(runs, eq(runs.id, turns.runId))
      .where(and(eq(turns.cycleId, cycleId), isRunInScope))
      .orderBy(asc(runs.number), asc(turns.index)),
    db
      .select({ turnId: defectTurns.turnId, defect: defects })
      .from(defects)
      .innerJoin(defectTurns, eq(defectTurns.defectId, defects.id))
      .where(eq(defects.cycleId, cycleId)),
  ]);
  const open = new Map<TurnId, DefectId[]>();
  for (const { turnId, defect } of defectRows) if (isHolding(defect.status)) pushTo(open, turnId, defect.id);
  const cycleTurns: CycleTurn[] = turnRows.map((row) => ({
    ...row,
    team: row.teamId ?? '',
    teamId: row.teamId ?? '',
    defects: open.get(row.id) ?? [],
    sinceMs: row.doneAt?.getTime() ?? getIdleSince(row.readyAt, row.dueOn),
  }));
  return {
    turns: cycleTurns,
    holds: findHolds(cycleTurns, { idleBeforeMs: getIdleMoment(now, actor.timeZone) }),
    defects: new Map(defectRows.map(({ defect }) => [defect.id, defect])),
  };
}
