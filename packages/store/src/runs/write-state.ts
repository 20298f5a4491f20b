import type { DefectFacts, RunFacts, RunsState, TurnFacts } from '@kindred-baton/core/turns/decide/runs-state';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import { chunk } from '../chunk.ts';
import type { Context } from '../operation.ts';
import { defectTurns } from '../schema/defects.ts';
import { attempts } from '../schema/turns.ts';

/** Writes what differs between two states of the same locked runs. A fixed number of statements, but for attempts: an event begins or ends few. */
export async function writeState(context: Context, before: RunsState, after: RunsState): Promise<void> {
  const turnsBefore = new Map(before.runs.flatMap((run) => run.turns.map((turn) => [turn.id, turn] as const)));
  const pairs = after.runs.flatMap((run) => run.turns.map((turn) => [turnsBefore.get(turn.id), turn] as const));
  await writeAttempts(context, pairs);
  await writeTurns(
    context,
    pairs.flatMap(([was, is]) => (was && toTurnText(was) !== toTurnText(is) ? [is] : [])),
  );
  const runsBefore = new Map(before.runs.map((run) => [run.id, run]));
  await writeRuns(
    context,
    after.runs.filter((run) => toRunText(runsBefore.get(run.id)) !== toRunText(run)),
  );
  await writeDefects(context, before.defects, after.defects);
}

const toTurnRow = (turn: TurnFacts) => ({
  ...{ id: turn.id, assignee_id: turn.assigneeId, due_on: turn.dueOn, version_id: turn.versionId, needs: turn.needs },
  ...{
    state: turn.state,
    outcome: turn.outcome,
    status: turn.status,
    causes: turn.causes,
    is_retest_due: turn.isRetestDue,
    lifted_after: turn.liftedAfter,
  },
  ready_at: turn.readyAtMs === null ? null : new Date(turn.readyAtMs),
  done_at: turn.doneAtMs === null ? null : new Date(turn.doneAtMs),
});
const toTurnText = (turn: TurnFacts) => JSON.stringify(toTurnRow(turn));
const toRunText = (run: RunFacts | undefined) => JSON.stringify([run?.outcome, run?.leftTo, run?.leftReason]);

async function writeTurns({ db }: Context, changed: readonly TurnFacts[]): Promise<void> {
  for (const piece of chunk(changed.map(toTurnRow)))
    await db.execute(sql`
      update turns set assignee_id = is_now.assignee_id, due_on = is_now.due_on, version_id = is_now.version_id, needs = is_now.needs,
        state = is_now.state, outcome = is_now.outcome, status = is_now.status, causes = is_now.causes,
        is_retest_due = is_now.is_retest_due, lifted_after = is_now.lifted_after, ready_at = is_now.ready_at, done_at = is_now.done_at
      from jsonb_to_recordset(${JSON.stringify(piece)}::jsonb) as is_now(id uuid, assignee_id uuid, due_on date, version_id uuid,
        needs jsonb, state turn_state, outcome outcome, status turn_status, causes jsonb, is_retest_due boolean, lifted_after int,
        ready_at timestamptz, done_at timestamptz)
      where turns.id = is_now.id`);
}

async function writeRuns({ db }: Context, changed: readonly RunFacts[]): Promise<void> {
  const rows = changed.map(({ id, outcome, leftTo, leftReason }) => ({ id, outcome, left_to: leftTo, left_reason: leftReason }));
  for (const piece of chunk(rows))
    await db.execute(sql`
      update runs set outcome = is_now.outcome, left_to = is_now.left_to, left_reason = is_now.left_reason
      from jsonb_to_recordset(${JSON.stringify(piece)}::jsonb) as is_now(id uuid, outcome run_outcome, left_to leftover_way, left_reason text)
      where runs.id = is_now.id`);
}

async function writeAttempts({ db }: Context, pairs: readonly (readonly [TurnFacts | undefined, TurnFacts])[]): Promise<void> {
  for (const [was, { id: turnId, open, latest }] of pairs) {
    if (open && open.id !== was?.open?.id) {
      const { startedAtMs, personName: _, isWithRunners: __, ...attempt } = open;
      await db.insert(attempts).values({ ...attempt, kept: { ...attempt.kept }, turnId, startedAt: new Date(startedAtMs) });
    }
    if (open && open.id === was?.open?.id && open.personId !== was.open.personId) {
      const { personId, runnerId } = open;
      await db.update(attempts).set({ personId, runnerId }).where(eq(attempts.id, open.id));
    }
    if (latest && latest.id === was?.open?.id) {
      const { outcome, isAbandoned } = latest;
      const ended = await db
        .update(attempts)
        .set({ outcome, isAbandoned, finishedAt: new Date(latest.finishedAtMs) })
        .where(and(eq(attempts.id, latest.id), isNull(attempts.finishedAt)))
        .returning({ id: attempts.id });
      if (ended.length === 0) throw new AppError('conflict', 'This attempt was finished meanwhile.');
    }
  }
}

/** A new defect's own row is written by whoever logs it; here are its links, and what became of the others. */
async function writeDefects({ db, now }: Context, before: readonly DefectFacts[], after: readonly DefectFacts[]): Promise<void> {
  const known = new Map(before.map((defect) => [defect.id, defect]));
  const changed = after.filter((defect) => known.get(defect.id) !== defect);
  const rows = changed.filter(({ id }) => known.has(id)).map(({ id, status, reason }) => ({ id, status, reason }));
  if (rows.length > 0)
    await db.execute(sql`
      update defects set status = is_now.status, reason = is_now.reason, changed_at = ${now.toISOString()}::timestamptz
      from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as is_now(id uuid, status defect_status, reason text)
      where defects.id = is_now.id`);
  const links = changed.flatMap(({ id, turns }) => turns.map(({ turn, retestAfter }) => ({ defectId: id, turnId: turn, retestAfter })));
  for (const piece of chunk(links))
    await db
      .insert(defectTurns)
      .values(piece)
      .onConflictDoUpdate({ target: [defectTurns.defectId, defectTurns.turnId], set: { retestAfter: sql`excluded.retest_after` } });
}
