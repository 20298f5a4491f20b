import type { RunnersView } from '@kindred-baton/contracts/runners/runner';
import type { AttemptId, PersonId, TurnId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import type { UnderWay } from '@kindred-baton/core/runners/forecast-queue';
import { forecastQueue } from '@kindred-baton/core/runners/forecast-queue';
import { orderQueue } from '@kindred-baton/core/runners/order-queue';
import { addPoolMinutes, isPoolOpen } from '@kindred-baton/core/runners/pool-hours';
import { LEASE_MS } from '@kindred-baton/core/runners/runner';
import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { Query, ReadContext } from '../operation.ts';
import { loadTroubleWords } from '../runs/load-trouble-words.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { people } from '../schema/people.ts';
import { members } from '../schema/programmes.ts';
import type { PoolRow, RunnerRow } from '../schema/runners.ts';
import { pools, runners } from '../schema/runners.ts';
import { scenarios } from '../schema/scenarios.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { attempts, evidence, leases, stepResults, turns } from '../schema/turns.ts';
import { loadQueue } from './load-queue.ts';

/** With so many sessions the queue is played at most, and with fewer where it is long. */
const MOST_SESSIONS = 12;
const MOST_PLAYED = 20_000;
/** No machine room has more. */
const MOST_AT_ONCE = 200;
const SHOWN = 500;

/** The machines, what each does now, the queue ahead of each pool, and when it ends. */
export const getRunners: Query<void, RunnersView> = {
  right: 'read',
  read: async (context) => {
    const [poolRows, runnerRows, held] = await Promise.all([loadPools(context), loadRunners(context), loadHeld(context)]);
    const nowOf = new Map<RunnerRow['id'], Held[]>();
    for (const one of held) pushTo(nowOf, one.runnerId, one);
    const isHeard = ({ heardAt, tokenHash, instance }: RunnerRow) =>
      tokenHash !== null && instance !== null && heardAt !== null && context.now.getTime() - heardAt.getTime() < LEASE_MS;
    const views = [];
    for (const pool of poolRows) {
      const own = runnerRows.filter((runner) => runner.poolId === pool.id);
      const atWork = own.filter((runner) => isHeard(runner) && runner.order === 'work');
      const sessions = atWork.reduce((sum, runner) => sum + runner.sessions, 0);
      const doing = own.flatMap(({ id }) => nowOf.get(id) ?? []);
      views.push(await toPoolView(context, { pool, sessions, doing }));
    }
    return {
      now: context.now.toISOString(),
      pools: views,
      runners: runnerRows
        .filter((runner) => runner.tokenHash !== null || nowOf.has(runner.id))
        .map((runner) => {
          const now = nowOf.get(runner.id) ?? [];
          const state =
            runner.heardAt === null ? 'never heard of' : !isHeard(runner) ? 'not heard of' : now.length > 0 ? 'at work' : 'idle';
          return {
            ...{ id: runner.id, name: runner.name, pool: runner.poolId, machine: runner.machine, sessions: runner.sessions },
            ...{ state: runner.tokenHash === null ? 'retired' : state, order: runner.order, problem: runner.problem },
            heardAt: runner.heardAt?.toISOString() ?? null,
            now: now.map(({ runnerId: _, minutes: __, startedAt: ___, ...rest }) => rest),
          };
        }),
      toLookAt: await listToLookAt(context, poolRows),
    };
  },
};

type LoadedPool = PoolRow & { readonly name: string };

function loadPools({ db, actor }: ReadContext): Promise<LoadedPool[]> {
  return db
    .select({
      ...{ id: pools.id, programmeId: pools.programmeId, days: pools.days, opensAt: pools.opensAt, closesAt: pools.closesAt },
      name: people.name,
    })
    .from(pools)
    .innerJoin(people, eq(people.id, pools.id))
    .innerJoin(members, and(eq(members.personId, pools.id), eq(members.programmeId, actor.programmeId), isNull(members.leftAt)))
    .where(eq(pools.programmeId, actor.programmeId))
    .orderBy(asc(people.name));
}

const loadRunners = ({ db, actor }: ReadContext): Promise<RunnerRow[]> =>
  db.select().from(runners).where(eq(runners.programmeId, actor.programmeId)).orderBy(asc(runners.name));

type Held = Awaited<ReturnType<typeof loadHeld>>[number];

/** What runners do now, with how each step went and the newest picture. */
async function loadHeld({ db, actor }: ReadContext) {
  const rows = await db
    .select({
      ...{ runnerId: leases.runnerId, attempt: leases.attemptId, step: leases.stepIndex, turn: turns.id, title: turns.title },
      ...{ test: tests.code, minutes: turns.minutes, startedAt: leases.takenAt, scenario: scenarios.name, rowName: runs.rowName },
      steps: sql<number>`jsonb_array_length(coalesce(${testVersions.steps}, ${turns.bare} -> 'steps'))`,
    })
    .from(leases)
    .innerJoin(attempts, eq(attempts.id, leases.attemptId))
    .innerJoin(turns, and(eq(turns.id, attempts.turnId), eq(turns.programmeId, actor.programmeId)))
    .innerJoin(runs, eq(runs.id, turns.runId))
    .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
    .leftJoin(tests, eq(tests.id, turns.testId))
    .leftJoin(testVersions, eq(testVersions.id, attempts.versionId))
    .orderBy(asc(leases.takenAt));
  const ids: AttemptId[] = rows.map(({ attempt }) => attempt);
  if (ids.length === 0) return [];
  const [results, pictures] = await Promise.all([
    db
      .select({ attemptId: stepResults.attemptId, index: stepResults.stepIndex, outcome: stepResults.outcome })
      .from(stepResults)
      .where(inArray(stepResults.attemptId, ids)),
    db
      .selectDistinctOn([evidence.attemptId], { attemptId: evidence.attemptId, id: evidence.id })
      .from(evidence)
      .where(and(inArray(evidence.attemptId, ids), sql`${evidence.mediaType} like 'image/%'`))
      .orderBy(evidence.attemptId, desc(evidence.stepIndex), desc(evidence.addedAt)),
  ]);
  return rows.map(({ scenario, rowName, ...row }) => ({
    ...row,
    run: rowName === null ? scenario : `${scenario}, ${rowName}`,
    outcomes: Array.from(
      { length: row.steps },
      (_, index) => results.find((result) => result.attemptId === row.attempt && result.index === index)?.outcome ?? null,
    ),
    picture: pictures.find(({ attemptId }) => attemptId === row.attempt)?.id ?? null,
  }));
}

interface PoolAtWork {
  readonly pool: LoadedPool;
  readonly sessions: number;
  readonly doing: readonly Held[];
}

async function toPoolView(context: ReadContext, { pool, sessions, doing }: PoolAtWork): Promise<RunnersView['pools'][number]> {
  const { now, actor } = context;
  const queue = await loadQueue(context, pool.id);
  const queued = orderQueue(queue.turns);
  const minutesOf = new Map(queued.map(({ id, minutes }) => [id, minutes]));
  const underWay = doing.map(({ turn, startedAt }): UnderWay => {
    const elapsed = (now.getTime() - startedAt.getTime()) / 60_000;
    return { id: turn, minutesLeft: Math.max(0, (minutesOf.get(turn) ?? 0) - elapsed) };
  });
  const forecast = forecastQueue(queue.turns, Math.max(1, sessions), underWay);
  const at = (minutes: number) => {
    const moment = addPoolMinutes(pool, now.getTime(), minutes, actor.timeZone);
    return moment === null ? null : new Date(moment).toISOString();
  };
  const playedOf = new Map(forecast.turns.map((turn) => [turn.id, turn]));
  const waiting = new Set(forecast.waiting);
  const names = await nameTurns(
    context,
    queued.slice(0, SHOWN).map(({ id }) => id),
  );
  const busy = new Set(doing.map(({ turn }) => turn));
  return {
    ...{ id: pool.id, name: pool.name, days: pool.days, opensAt: pool.opensAt, closesAt: pool.closesAt, sessions },
    isOpen: isPoolOpen(pool, now.getTime(), actor.timeZone),
    queue: queued.slice(0, SHOWN).flatMap((turn) => {
      const named = names.get(turn.id);
      const played = playedOf.get(turn.id);
      if (!named) return [];
      const kind = busy.has(turn.id)
        ? 'under way'
        : turn.isReady || turn.isGivenBack
          ? 'ready'
          : waiting.has(turn.id)
            ? 'with people'
            : 'waiting';
      return [
        {
          ...named,
          ...{ turn: turn.id, kind, minutes: turn.minutes, session: played?.session ?? null },
          from: played ? at(played.from) : null,
          to: played ? at(played.to) : null,
        } as const,
      ];
    }),
    known: queued.filter(({ id }) => queue.known.has(id)).length,
    ends: listTried(queued.length, sessions).map((tried) => ({ sessions: tried, at: at(forecastQueue(queue.turns, tried, underWay).end) })),
    total: queued.length,
    ready: queued.filter(({ id, isReady, isGivenBack }) => (isReady || isGivenBack) && !busy.has(id)).length,
    withPeople: forecast.waiting.length,
    soonest: at(forecastQueue(queue.turns, Math.min(MOST_AT_ONCE, queued.length), underWay).end),
  };
}

/** One and more sessions, those that are there among them. */
function listTried(turns: number, sessions: number): number[] {
  const most = Math.max(1, Math.min(MOST_SESSIONS, Math.floor(MOST_PLAYED / Math.max(1, turns))));
  const tried = Array.from({ length: most }, (_, index) => index + 1);
  return sessions > most ? [...tried, sessions] : tried;
}

async function nameTurns({ db }: ReadContext, ids: readonly TurnId[]) {
  if (ids.length === 0) return new Map<TurnId, never>();
  const rows = await db
    .select({ id: turns.id, title: turns.title, status: turns.status, cycle: cycles.code, scenario: scenarios.name, rowName: runs.rowName })
    .from(turns)
    .innerJoin(cycles, eq(cycles.id, turns.cycleId))
    .innerJoin(runs, eq(runs.id, turns.runId))
    .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
    .where(inArray(turns.id, [...ids]));
  return new Map(
    rows.map(({ id, scenario, rowName, ...row }) => [id, { ...row, run: rowName === null ? scenario : `${scenario}, ${rowName}` }]),
  );
}

/** Turns that are with a pool and came to no good end: a failure wants a person's eye, a block a mend or somebody to take it over. */
async function listToLookAt(context: ReadContext, own: readonly { readonly id: PersonId }[]): Promise<RunnersView['toLookAt']> {
  if (own.length === 0) return [];
  const pool = own.map(({ id }) => id);
  const rows = await context.db
    .select({ id: turns.id, outcome: turns.outcome })
    .from(turns)
    .innerJoin(cycles, and(eq(cycles.id, turns.cycleId), inArray(cycles.state, ['open', 'closing'])))
    .where(and(inArray(turns.assigneeId, pool), eq(turns.state, 'done'), inArray(turns.outcome, ['failed', 'blocked'])))
    .orderBy(desc(turns.doneAt))
    .limit(SHOWN);
  const ids = rows.map(({ id }) => id);
  const [names, words] = await Promise.all([nameTurns(context, ids), loadTroubleWords(context, ids)]);
  return rows.flatMap(({ id, outcome }) => {
    const named = names.get(id);
    if (!named) return [];
    const { title, run, cycle } = named;
    return [
      {
        turn: id,
        title,
        run,
        cycle,
        outcome: outcome === 'failed' ? ('failed' as const) : ('blocked' as const),
        words: words.get(id) ?? '',
      },
    ];
  });
}
