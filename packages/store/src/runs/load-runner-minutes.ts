import type { TestId } from '@kindred-baton/core/ids';
import { sql } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';

interface PlannedTurn {
  readonly testId: TestId | null;
  /** As planned, for a person. */
  readonly minutes: number;
}

export interface RunnerMinutes {
  /** What runners take for a turn. */
  readonly of: (turn: PlannedTurn) => number;
  /** Runners did the test before; else it is guessed by what they took for others. */
  readonly isKnown: (testId: TestId | null) => boolean;
}

/** What runners take for these turns: by their last attempts at the same test, else by how much quicker they were than planned, else as planned. */
export async function loadRunnerMinutes(context: Pick<ReadContext, 'db'>, turns: readonly PlannedTurn[]): Promise<RunnerMinutes> {
  const usual = await loadUsual(
    context,
    turns.flatMap(({ testId }) => testId ?? []),
  );
  const share = getShare(turns, usual);
  return {
    of: ({ testId, minutes }) => (testId === null ? undefined : usual.get(testId)) ?? minutes * share,
    isKnown: (testId) => testId !== null && usual.has(testId),
  };
}

/** How much quicker runners are than planned, over the tests that they did; as planned where they did none. */
function getShare(turns: readonly PlannedTurn[], usual: ReadonlyMap<TestId, number>): number {
  const known = turns.flatMap(({ testId, minutes }) => {
    const took = testId === null ? undefined : usual.get(testId);
    return took === undefined ? [] : [{ took, minutes }];
  });
  const planned = known.reduce((sum, { minutes }) => sum + minutes, 0);
  return planned === 0 ? 1 : known.reduce((sum, { took }) => sum + took, 0) / planned;
}

const LAST = 10;

/** Of each test the median of its last ten attempts that a runner made from the first step to an end, in minutes. */
async function loadUsual({ db }: Pick<ReadContext, 'db'>, testIds: readonly TestId[]): Promise<Map<TestId, number>> {
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
