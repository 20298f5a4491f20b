import { inArray, sql } from 'drizzle-orm';
import type { RunId } from '@kindred-baton/core/ids';
import { assessRun } from '@kindred-baton/core/turns/assess-run';
import type { TurnAssessment } from '@kindred-baton/core/turns/turn';
import type { Context } from '../operation.ts';
import { runs } from '../schema/cycles.ts';
import type { TurnRow } from '../schema/turns.ts';
import { loadRuns } from './load-runs.ts';

/** Locks runs, in a fixed order, so that two finishing testers take turns. */
export async function lockRuns({ db }: Context, runIds: readonly RunId[]): Promise<void> {
  if (runIds.length > 0)
    await db
      .select({ id: runs.id })
      .from(runs)
      .where(inArray(runs.id, [...runIds]))
      .orderBy(runs.id)
      .for('update');
}

/** Works out anew where every turn of these runs stands, and writes what differs. Returns the turns that became ready. */
export async function reassessRuns(context: Context, runIds: readonly RunId[]): Promise<TurnRow[]> {
  const loaded = await loadRuns(context, runIds);
  const changes: { turn: TurnRow; is: TurnAssessment }[] = [];
  const outcomes: { id: RunId; outcome: string }[] = [];
  for (const run of loaded.values()) {
    const assessment = assessRun(run.views);
    outcomes.push({ id: run.id, outcome: assessment.outcome });
    run.turns.forEach((turn, index) => {
      const is = assessment.turns[index];
      if (is && differs(turn, is)) changes.push({ turn, is });
    });
  }
  await writeTurns(context, changes);
  await writeOutcomes(context, outcomes);
  return changes.filter(({ turn, is }) => is.state === 'ready' && turn.state !== 'ready').map(({ turn }) => turn);
}

function differs(turn: TurnRow, is: TurnAssessment): boolean {
  return (
    turn.state !== is.state ||
    turn.outcome !== is.outcome ||
    turn.status !== is.status ||
    JSON.stringify(turn.causes) !== JSON.stringify(is.causes)
  );
}

async function writeTurns({ db, now }: Context, changes: readonly { turn: TurnRow; is: TurnAssessment }[]): Promise<void> {
  if (changes.length === 0) return;
  const rows = changes.map(({ turn, is }) => ({
    id: turn.id,
    state: is.state,
    outcome: is.outcome,
    status: is.status,
    causes: is.causes,
    ready_at: is.state === 'ready' && turn.state !== 'ready' ? now : turn.readyAt,
    done_at: is.outcome === 'not run' ? null : is.state === 'done' && turn.state !== 'done' ? now : (turn.doneAt ?? now),
  }));
  await db.execute(sql`
    update turns set state = now_is.state, outcome = now_is.outcome, status = now_is.status, causes = now_is.causes,
      ready_at = now_is.ready_at, done_at = now_is.done_at
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as now_is(id uuid, state turn_state, outcome outcome, status turn_status,
      causes jsonb, ready_at timestamptz, done_at timestamptz)
    where turns.id = now_is.id`);
}

async function writeOutcomes({ db }: Context, outcomes: readonly { id: RunId; outcome: string }[]): Promise<void> {
  if (outcomes.length === 0) return;
  await db.execute(sql`
    update runs set outcome = now_is.outcome
    from jsonb_to_recordset(${JSON.stringify(outcomes)}::jsonb) as now_is(id uuid, outcome run_outcome)
    where runs.id = now_is.id and runs.outcome <> now_is.outcome`);
}
