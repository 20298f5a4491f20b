import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import { repinNeeds } from '@kindred-baton/core/turns/repin-needs';
import type { RunId, TestId, TestVersionId } from '@kindred-baton/core/ids';
import type { RunEventOf } from '@kindred-baton/core/turns/decide/event';
import type { RunsState, TurnFacts } from '@kindred-baton/core/turns/decide/runs-state';
import { pushTo } from '@kindred-baton/core/push-to';
import type { Context, Operation } from '../operation.ts';
import { cycles, runs } from '../schema/cycles.ts';
import type { TestVersionRow } from '../schema/tests.ts';
import { testVersions } from '../schema/tests.ts';
import { turns } from '../schema/turns.ts';
import { changeRuns } from '../runs/change-runs.ts';
import { loadForChange } from '../tests/change-tests.ts';

/**
 * Turns of an open cycle that nobody has begun take the newest agreed version over. What is under way or done keeps the version that it
 * was begun with. The values that the newer version needs are found anew where the older one did not need them.
 */
export const takeNewerVersion: Operation<{ code: string; cycle: string }, { changed: number; version: number }> = {
  right: 'run cycles',
  run: async (context, { code, cycle: cycleCode }) => {
    const { db } = context;
    const { test } = await loadForChange(context, code);
    const cycle = await loadOpenCycle(context, cycleCode);
    const [newest] = await db
      .select()
      .from(testVersions)
      .where(and(eq(testVersions.testId, test.id), eq(testVersions.state, 'agreed')))
      .orderBy(desc(testVersions.number))
      .limit(1);
    if (!newest) throw new AppError('invalid', `Test ${code} has no agreed version.`);
    const inScope = await db
      .selectDistinct({ id: turns.runId })
      .from(turns)
      .where(and(eq(turns.cycleId, cycle.id), eq(turns.testId, test.id)));
    let changed = 0;
    await changeRuns(context, {
      scope: { runs: inScope.map(({ id }) => id) },
      event: async (state) => {
        const older = findOlder(state, test.id, newest.id);
        if (older.length === 0)
          throw new AppError(
            'conflict',
            `No turn of ${code} in ${cycleCode} that nobody has begun is on an older version than ${newest.number}.`,
          );
        changed = older.length;
        return { kind: 'repin', version: newest.number, turns: await repin(context, older, newest) };
      },
    });
    await context.record({
      subject: 'cycle',
      subjectId: cycle.id,
      action: 'took a newer version over',
      details: { code, version: newest.number, cycle: cycleCode, turns: changed },
    });
    return { changed, version: newest.number };
  },
};

async function loadOpenCycle({ db, actor }: Context, code: string) {
  const [cycle] = await db
    .select()
    .from(cycles)
    .where(and(eq(cycles.programmeId, actor.programmeId), eq(cycles.code, code)));
  if (!cycle) throw new AppError('not found', `There is no cycle ${code}.`);
  if (cycle.state !== 'open' && cycle.state !== 'closing')
    throw new AppError('invalid', `Cycle ${code} is ${cycle.state}; versions are taken over in an open one.`);
  return cycle;
}

/** Turns of a test that nobody has begun, on another version. */
function findOlder({ runs: loaded }: RunsState, testId: TestId, newest: TestVersionId): TurnFacts[] {
  return loaded.flatMap((run) =>
    run.turns.filter(
      (turn) => turn.testId === testId && turn.versionId !== newest && turn.latest === null && turn.open === null && turn.state !== 'done',
    ),
  );
}

async function repin({ db }: Context, older: readonly TurnFacts[], newest: TestVersionRow): Promise<RunEventOf<'repin'>['turns']> {
  const runIds = [...new Set(older.map(({ runId }) => runId))];
  const [givers, runRows] = await Promise.all([
    db
      .select({ runId: turns.runId, index: turns.index, gives: testVersions.gives })
      .from(turns)
      .innerJoin(testVersions, eq(testVersions.id, turns.versionId))
      .where(inArray(turns.runId, runIds))
      .orderBy(asc(turns.index)),
    db.select({ id: runs.id, values: runs.values }).from(runs).where(inArray(runs.id, runIds)),
  ]);
  const giversOf = new Map<RunId, (typeof givers)[number][]>();
  for (const giver of givers) pushTo(giversOf, giver.runId, giver);
  const valuesOf = new Map(runRows.map((run) => [run.id, run.values]));
  return older.map((turn) => ({
    ...{ turn: turn.id, versionId: newest.id },
    needs: repinNeeds({
      ...{ needs: newest.needs, pinned: turn.needs },
      earlier: (giversOf.get(turn.runId) ?? []).filter(({ index }) => index < turn.index),
      ...{ rowValues: valuesOf.get(turn.runId) ?? {}, ownValues: newest.rows[0]?.values ?? {} },
    }),
  }));
}
