import type { SQLWrapper } from 'drizzle-orm';
import { and, eq, inArray, isNotNull, lt, or, sql } from 'drizzle-orm';
import { addWorkingDays, toDay } from '@kindred-baton/core/time/calendar';
import { DEFECT_STATUSES, isHolding } from '@kindred-baton/core/defects/defect';
import type { CycleId, DefectId, NodeId, TurnId } from '@kindred-baton/core/ids';
import type { Hold, HoldTurn } from '@kindred-baton/core/progress/find-holds';
import { findHolds } from '@kindred-baton/core/progress/find-holds';
import { pushTo } from '@kindred-baton/core/push-to';
import type { ReadContext } from '../operation.ts';
import { readPacked } from '../read-packed.ts';
import { runs } from '../schema/cycles.ts';
import type { DefectRow } from '../schema/defects.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { turns } from '../schema/turns.ts';
import { isRunInScope } from './in-scope.ts';

const NO_DEFECTS: readonly DefectId[] = [];
const WEEKDAYS = { workingDays: [1, 2, 3, 4, 5], holidays: [] };

/** A ready turn that has lain for more than a whole working day after it was due holds the baton: testers work beside their real jobs. */
function getIdleMoment(now: Date, timeZone: string): number {
  return Date.parse(`${addWorkingDays(toDay(now.getTime(), timeZone), -1, WEEKDAYS)}T00:00:00Z`);
}

/** A ready turn lies idle from the day on which it is due: before that it holds nobody. */
function getIdleSince(readyMs: number | null, dueOn: string | null): number | null {
  return readyMs === null ? null : Math.max(readyMs, dueOn === null ? 0 : Date.parse(`${dueOn}T00:00:00Z`));
}

export interface HeldTurn extends HoldTurn {
  readonly id: TurnId;
  /** Of a turn at which it may be held; else empty. */
  readonly title: string;
  readonly nodeId: NodeId;
}

export interface HeldRuns {
  /** The turns of the runs in which the baton is held, by id. */
  readonly turns: ReadonlyMap<string, HeldTurn>;
  readonly holds: readonly Hold[];
  readonly defects: ReadonlyMap<DefectId, Pick<DefectRow, 'id' | 'code' | 'title'>>;
}

/** A turn as it is read; when it came to stand is told, in epoch milliseconds, of those that may hold. */
interface ReadTurn extends Pick<HeldTurn, 'id' | 'run' | 'index' | 'after' | 'status' | 'minutes' | 'nodeId' | 'assignee'> {
  readonly team: string | null;
  readonly title: string | null;
  readonly readyMs: number | null;
  readonly dueOn: string | null;
  readonly doneMs: number | null;
}

const toMs = (moment: SQLWrapper) => sql`(extract(epoch from ${moment}) * 1000)::float8`;
const ofHolders = (cell: SQLWrapper) => sql`case when ${inArray(turns.status, ['ready', 'failed', 'blocked'])} then ${cell} end`;

/** Where the baton is held in some cycles. Only the runs in which it is are loaded, since a hold lies within its runs. Two queries. */
export async function loadHolds(context: ReadContext, cycleIds: readonly CycleId[]): Promise<HeldRuns> {
  const { db, now, actor } = context;
  const idleBeforeMs = getIdleMoment(now, actor.timeZone);
  const mayBeIdle = and(eq(turns.status, 'ready'), isNotNull(turns.assigneeId), lt(turns.readyAt, new Date(idleBeforeMs)));
  const ofCycles = inArray(turns.cycleId, [...cycleIds]);
  const held = db
    .select({ runId: turns.runId })
    .from(turns)
    .where(and(ofCycles, or(inArray(turns.status, ['failed', 'blocked']), mayBeIdle)));
  const [rows, defectRows] = await Promise.all([
    readPacked<ReadTurn>(context, {
      cells: {
        ...{ id: turns.id, run: turns.runId, index: turns.index, after: turns.after, status: turns.status, minutes: turns.minutes },
        ...{ nodeId: turns.nodeId, team: turns.teamId, assignee: turns.assigneeId, title: ofHolders(turns.title) },
        ...{ readyMs: ofHolders(toMs(turns.readyAt)), dueOn: ofHolders(turns.dueOn), doneMs: ofHolders(toMs(turns.doneAt)) },
      },
      from: sql`from ${turns} join ${runs} on ${eq(runs.id, turns.runId)} where ${and(ofCycles, isRunInScope, inArray(turns.runId, held))} order by ${runs.cycleId}, ${runs.number}, ${turns.index}`,
    }),
    db
      .select({ turnId: defectTurns.turnId, id: defects.id, code: defects.code, title: defects.title })
      .from(defects)
      .innerJoin(defectTurns, eq(defectTurns.defectId, defects.id))
      .where(and(inArray(defects.cycleId, [...cycleIds]), inArray(defects.status, DEFECT_STATUSES.filter(isHolding)))),
  ]);
  const open = new Map<TurnId, DefectId[]>();
  for (const { turnId, id } of defectRows) pushTo(open, turnId, id);
  // Each by its name: taking rows apart and together again costs more than all else here.
  const heldTurns = rows.map((row): HeldTurn => ({
    id: row.id,
    run: row.run,
    index: row.index,
    after: row.after,
    status: row.status,
    minutes: row.minutes,
    nodeId: row.nodeId,
    team: row.team ?? '',
    assignee: row.assignee,
    title: row.title ?? '',
    defects: open.get(row.id) ?? NO_DEFECTS,
    sinceMs: row.doneMs ?? getIdleSince(row.readyMs, row.dueOn),
  }));
  return {
    turns: new Map(heldTurns.map((turn) => [turn.id, turn])),
    holds: findHolds(heldTurns, { idleBeforeMs }),
    defects: new Map(defectRows.map((defect) => [defect.id, defect])),
  };
}
