import { and, asc, desc, inArray, isNotNull, isNull } from 'drizzle-orm';
import { SKIPS_REST } from '@kindred-baton/core/cycles/cycle';
import type { RunId, TurnId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import type { TurnView } from '@kindred-baton/core/turns/turn';
import type { ReadContext } from '../operation.ts';
import { runs } from '../schema/cycles.ts';
import type { AttemptRow, TurnRow } from '../schema/turns.ts';
import { attempts, turns } from '../schema/turns.ts';

export interface LoadedRun {
  readonly id: RunId;
  /** In the order of the legs: place i holds the turn with index i. */
  readonly turns: readonly TurnRow[];
  readonly views: readonly TurnView[];
}

/** Whole runs, as the assessment needs them. Three queries, whatever the number of runs. */
export async function loadRuns({ db }: Pick<ReadContext, 'db'>, runIds: readonly RunId[]): Promise<Map<RunId, LoadedRun>> {
  const ids = [...new Set(runIds)];
  if (ids.length === 0) return new Map();
  const ofRuns = db.select({ id: turns.id }).from(turns).where(inArray(turns.runId, ids));
  const [turnRows, latestRows, openRows, droppedRows] = await Promise.all([
    db.select().from(turns).where(inArray(turns.runId, ids)).orderBy(asc(turns.runId), asc(turns.index)),
    db
      .selectDistinctOn([attempts.turnId])
      .from(attempts)
      .where(and(inArray(attempts.turnId, ofRuns), isNotNull(attempts.finishedAt)))
      .orderBy(attempts.turnId, desc(attempts.number)),
    db
      .select({ turnId: attempts.turnId })
      .from(attempts)
      .where(and(inArray(attempts.turnId, ofRuns), isNull(attempts.finishedAt))),
    db
      .select({ id: runs.id })
      .from(runs)
      .where(and(inArray(runs.id, ids), inArray(runs.leftTo, SKIPS_REST))),
  ]);
  const latest = new Map(latestRows.map((attempt) => [attempt.turnId, attempt]));
  const underWay = new Set(openRows.map((row) => row.turnId));
  const dropped = new Set(droppedRows.map((row) => row.id));
  const byRun = new Map<RunId, TurnRow[]>();
  for (const turn of turnRows) pushTo(byRun, turn.runId, turn);
  return new Map(
    [...byRun].map(([id, list]) => [
      id,
      { id, turns: list, views: list.map((turn) => ({ ...toTurnView(turn, latest, underWay), isLeftOut: dropped.has(id) })) },
    ]),
  );
}

export function toTurnView(turn: TurnRow, latest: ReadonlyMap<TurnId, AttemptRow>, underWay: ReadonlySet<TurnId>): TurnView {
  const attempt = latest.get(turn.id);
  return {
    after: turn.after,
    needs: turn.needs,
    latest: attempt?.outcome ? { outcome: attempt.outcome, kept: attempt.kept } : null,
    isUnderWay: underWay.has(turn.id),
    isRetestDue: turn.isRetestDue,
  };
}
