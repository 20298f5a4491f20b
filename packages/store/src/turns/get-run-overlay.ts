import { and, desc, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { RunOverlay } from '@kindred-baton/contracts/scenarios/scenario';
import type { RunId, TurnId } from '@kindred-baton/core/ids';
import { collectBaton } from '@kindred-baton/core/turns/assess-run';
import type { Query, ReadContext } from '../operation.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { people } from '../schema/people.ts';
import { testVersions } from '../schema/tests.ts';
import { attempts, stepResults, turns } from '../schema/turns.ts';
import { loadRuns } from '../runs/load-runs.ts';

/** One run, to be laid over its scenario's relay: where each turn stands, and the baton so far. */
export const getRunOverlay: Query<RunId, RunOverlay> = {
  right: 'read',
  read: async (context, runId) => {
    const [head] = await context.db
      .select({ rowName: runs.rowName, cycle: { code: cycles.code, name: cycles.name } })
      .from(runs)
      .innerJoin(cycles, eq(cycles.id, runs.cycleId))
      .where(and(eq(runs.id, runId), eq(cycles.programmeId, context.actor.programmeId)));
    if (!head) throw new AppError('not found', 'There is no such run in this programme.');
    const loaded = (await loadRuns(context, [runId])).get(runId);
    const [names, latest] = await Promise.all([loadAssignees(context, runId), loadLatest(context, runId)]);
    return {
      ...{ id: runId, ...head },
      turns: (loaded?.turns ?? []).map(({ id, index, legId, title, status }) => ({
        ...{ id, index, legId, title, status },
        assignee: names.get(id) ?? null,
        latest: latest.get(id) ?? null,
      })),
      baton: collectBaton(loaded?.views ?? []),
    };
  },
};

async function loadAssignees({ db }: ReadContext, runId: RunId): Promise<Map<TurnId, string>> {
  const rows = await db
    .select({ id: turns.id, name: people.name })
    .from(turns)
    .innerJoin(people, eq(people.id, turns.assigneeId))
    .where(eq(turns.runId, runId));
  return new Map(rows.map((row) => [row.id, row.name]));
}

/** The newest finished attempt of each turn, with the step at which it stopped. */
async function loadLatest({ db }: ReadContext, runId: RunId): Promise<Map<TurnId, NonNullable<RunOverlay['turns'][number]['latest']>>> {
  const newest = db
    .selectDistinctOn([attempts.turnId], { id: attempts.id })
    .from(attempts)
    .innerJoin(turns, eq(turns.id, attempts.turnId))
    .where(and(eq(turns.runId, runId), isNotNull(attempts.finishedAt)))
    .orderBy(attempts.turnId, desc(attempts.number));
  const rows = await db
    .select({
      turnId: attempts.turnId,
      outcome: sql<string>`${attempts.outcome}`,
      by: people.name,
      at: attempts.finishedAt,
      note: stepResults.note,
      step: stepResults.stepIndex,
      steps: sql<number>`jsonb_array_length(${testVersions.steps})`.mapWith(Number),
    })
    .from(attempts)
    .innerJoin(people, eq(people.id, attempts.personId))
    .innerJoin(testVersions, eq(testVersions.id, attempts.versionId))
    .leftJoin(stepResults, and(eq(stepResults.attemptId, attempts.id), inArray(stepResults.outcome, ['failed', 'blocked'])))
    .where(inArray(attempts.id, newest))
    .orderBy(desc(stepResults.stepIndex));
  return new Map(
    rows.map((row) => [
      row.turnId,
      {
        outcome: row.outcome,
        by: row.by,
        at: (row.at ?? new Date(0)).toISOString(),
        note: row.note ?? '',
        step: row.step === null ? null : row.step + 1,
        steps: row.steps,
      },
    ]),
  );
}
