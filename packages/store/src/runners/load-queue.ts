import type { TurnId, PersonId, TestId } from '@kindred-baton/core/ids';
import { letsOn } from '@kindred-baton/core/outcomes';
import type { QueueTurn } from '@kindred-baton/core/runners/order-queue';
import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { attempts, leases, turns } from '../schema/turns.ts';

/** What a runner's forecast of a turn rests on. */
export interface LoadedQueue {
  readonly turns: readonly QueueTurn[];
  /** Tests that runners did before: their expected minutes are known. */
  readonly known: ReadonlySet<TurnId>;
}

/** Every turn of the runs in which a pool has something to do, with what a runner takes for it. Three queries. */
export async function loadQueue(context: Pick<ReadContext, 'db' | 'actor'>, poolId: PersonId): Promise<LoadedQueue> {
  const { db, actor } = context;
  const own = db
    .select({ id: turns.runId })
    .from(turns)
    .innerJoin(cycles, and(eq(cycles.id, turns.cycleId), inArray(cycles.state, ['open', 'closing'])))
    .where(and(eq(turns.programmeId, actor.programmeId), eq(turns.assigneeId, poolId), sql`${turns.status} not in ('passed', 'skipped')`));
  const rows = await db
    .select({
      ...{ id: turns.id, run: turns.runId, runNumber: runs.number, index: turns.index, after: turns.after, testId: turns.testId },
      ...{ state: turns.state, outcome: turns.outcome, minutes: turns.minutes, dueOn: turns.dueOn, priority: runs.priority },
      ...{ assigneeId: turns.assigneeId, openBy: attempts.personId, leased: leases.attemptId },
    })
    .from(turns)
    .innerJoin(runs, and(eq(runs.id, turns.runId), isNull(runs.leftTo)))
    .leftJoin(attempts, and(eq(attempts.turnId, turns.id), isNull(attempts.finishedAt)))
    .leftJoin(leases, eq(leases.attemptId, attempts.id))
    .where(inArray(turns.runId, own));
  const testIds = rows.flatMap(({ testId, assigneeId }) => (testId && assigneeId === poolId ? [testId] : []));
  const usual = await loadUsualMinutes(context, testIds);
  const share = getShare(rows, usual);
  return {
    turns: rows.map(({ state, outcome, assigneeId, openBy, leased, testId, minutes, ...turn }) => {
      const isThrough = state === 'done' && letsOn(outcome);
      return {
        ...turn,
        isThrough,
        isQueued: assigneeId === poolId && (state === 'ready' || state === 'waiting' || state === 'under way') && !isThrough,
        isReady: state === 'ready',
        isGivenBack: openBy === poolId && leased === null,
        minutes: (testId === null ? undefined : usual.get(testId)) ?? minutes * share,
      };
    }),
    known: new Set(rows.flatMap(({ id, testId }) => (testId !== null && usual.has(testId) ? [id] : []))),
  };
}

/** How much quicker runners are than planned, over the tests that they did; as planned where they did none. */
function getShare(rows: readonly { testId: TestId | null; minutes: number }[], usual: ReadonlyMap<TestId, number>): number {
  const known = rows.flatMap(({ testId, minutes }) => {
    const took = testId === null ? undefined : usual.get(testId);
    return took === undefined ? [] : [{ took, minutes }];
  });
  const planned = known.reduce((sum, { minutes }) => sum + minutes, 0);
  return planned === 0 ? 1 : known.reduce((sum, { took }) => sum + took, 0) / planned;
}

const LAST = 10;

/** Of each test the median of its last ten attempts that a runner made from the first step to an end, in minutes. */
async function loadUsualMinutes({ db }: Pick<ReadContext, 'db'>, testIds: readonly TestId[]): Promise<Map<TestId, number>> {
  const ids = [...new Set(testIds)];
  if (ids.length === 0) return new Map();
  const { rows } = await db.execute<{ test_id: TestId; minutes: number }>(sql`
    select test_id, percentile_cont(0.5) within group (order by seconds) / 60 as minutes
    from (
      select turns.test_id, extract(epoch from attempts.finished_at - attempts.started_at)::float8 as seconds,
        row_number() over (partition by turns.test_id order by attempts.finished_at desc) as place
      from attempts join turns on turns.id = attempts.turn_id
      where turns.test_id in (select unnest(${sql.param(ids)}::uuid[])) and attempts.finished_at is not null and attempts.runner_id is not null
        and attempts.continues_id is null and attempts.outcome in ('passed', 'failed')
    ) as lately where place <= ${LAST} group by test_id`);
  return new Map(rows.map(({ test_id, minutes }) => [test_id, minutes]));
}
