import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addWork, DAY_MINUTES, findNextWork } from '../../time/working-time.ts';
import { findWhatHelps } from './find-what-helps.ts';
import { createJobGraph } from './job-graph.ts';
import { addWaitDays, createCalendars } from './measure-chains.ts';
import { applyPlanChange } from './plan-changes.ts';
import type { CyclePlan } from './plan-cycle.ts';
import { planCycle } from './plan-cycle.ts';
import type { PlanJob, PlanProblem, PlanWorker } from './problem.ts';
import { scheduleJobs } from './schedule-jobs.ts';

const job = (id: string, minutes: number, more: Partial<PlanJob> = {}): PlanJob => ({
  ...{ id, run: id, lane: 'x', minutes, after: [], waitDays: 0, notBefore: 0, worker: null, sameAs: null, otherThan: [] },
  ...more,
});
const worker = (id: string, lanes: string[], minutesByDay: number[], startsAt = 0): PlanWorker => ({ id, lanes, minutesByDay, startsAt });
const always = Array<number>(20).fill(DAY_MINUTES);
const createProblem = (jobs: PlanJob[], workers: PlanWorker[], endsAt = DAY_MINUTES): PlanProblem => ({
  ...{ jobs, workers, startsAt: 0, endsAt, runs: jobs.map(({ run }) => ({ id: run, rank: 0 })) },
  lanes: [...new Set(workers.flatMap(({ lanes }) => lanes))].map((id) => ({ id, minutesByDay: always, startsAt: 0 })),
});

/** Plain: every order of every job with every person who may; the fewest left undone, then the soonest finish. */
function findBest({ jobs, workers }: PlanProblem, calendars: ReturnType<typeof createCalendars>): { stuck: number; finish: number } {
  let best = { stuck: Infinity, finish: Infinity };
  const ends = new Map<string, number>();
  const doneBy = new Map<string, string>();
  const free = new Map(workers.map(({ id }) => [id, 0]));
  const group = (a: PlanJob, b: PlanJob) => a.sameAs === b.id || b.sameAs === a.id;
  const may = (one: PlanJob, who: PlanWorker) =>
    (one.worker === null ? who.lanes.includes(one.lane) : one.worker === who.id) &&
    jobs.every((other) => {
      const by = doneBy.get(other.id);
      if (by === undefined) return true;
      if ((one.otherThan.includes(other.id) || other.otherThan.includes(one.id)) && by === who.id) return false;
      return !group(one, other) || by === who.id;
    });
  const visit = (left: readonly PlanJob[], finish: number) => {
    if (left.length < best.stuck || (left.length === best.stuck && finish < best.finish)) best = { stuck: left.length, finish };
    if (best.stuck === 0 && finish >= best.finish) return;
    for (const next of left) {
      if (!next.after.every((id) => ends.has(id))) continue;
      const last = Math.max(0, ...next.after.map((id) => ends.get(id)!));
      const ready = Math.max(next.after.length > 0 ? addWaitDays(last, next.waitDays) : 0, next.notBefore);
      for (const who of workers) {
        if (!may(next, who)) continue;
        const time = calendars.ofWorker.get(who.id)!;
        const before = free.get(who.id)!;
        const start = findNextWork(time, Math.max(before, ready));
        const end = start < Infinity ? addWork(time, start, next.minutes) : Infinity;
        if (end === Infinity) continue;
        free.set(who.id, end);
        ends.set(next.id, end);
        doneBy.set(next.id, who.id);
        visit(
          left.filter((other) => other !== next),
          Math.max(finish, end),
        );
        free.set(who.id, before);
        ends.delete(next.id);
        doneBy.delete(next.id);
      }
    }
  };
  visit(jobs, 0);
  return best;
}

const rows = (jobs: number) =>
  fc.array(fc.tuple(fc.integer({ min: 1, max: 9 }), fc.array(fc.nat(5), { maxLength: 2 })), { minLength: 1, maxLength: jobs });
const before = (after: readonly number[], i: number) => after.filter((j) => j < i).map(String);

/** How many of so many seeded plans are the best there is; none may leave more undone, or end before the best. */
function countBest(problems: readonly PlanProblem[]): number {
  return problems.filter((given) => {
    const plan = planCycle(given);
    const best = findBest(given, createCalendars(given));
    expect(plan.stuck.length).toBe(best.stuck);
    if (best.stuck === 0) expect(plan.finish).toBeGreaterThanOrEqual(best.finish);
    return best.stuck > 0 || plan.finish === best.finish;
  }).length;
}

describe('a plan, beside every plan there is', () => {
  // Aims of the project. 20,000 seeded cases of each were tried once: 99.98 % and 97.7 % were the best there is.
  it('is the best in at least 99 of 100 small cases without calendars', () => {
    const cases = fc.record({ count: fc.integer({ min: 1, max: 3 }), rows: rows(6) });
    const problems = fc.sample(cases, { seed: 21, numRuns: 400 }).map(({ count, rows: given }) =>
      createProblem(
        given.map(([minutes, after], i) => job(String(i), minutes, { after: before(after, i) })),
        Array.from({ length: count }, (_, i) => worker(`w${i}`, ['x'], always)),
      ),
    );
    expect(countBest(problems)).toBeGreaterThanOrEqual(396);
  });

  it('is the best in at least 95 of 100 with calendars, lanes, waiting days and work given by name', () => {
    const cases = fc.record({
      rows: fc.array(
        fc.tuple(fc.integer({ min: 20, max: 200 }), fc.array(fc.nat(4), { maxLength: 2 }), fc.constantFrom('x', 'y'), fc.nat(1), fc.nat(3)),
        { minLength: 1, maxLength: 5 },
      ),
      hours: fc.tuple(fc.integer({ min: 60, max: 240 }), fc.integer({ min: 60, max: 240 }), fc.integer({ min: 60, max: 240 })),
      both: fc.boolean(),
    });
    const problems = fc.sample(cases, { seed: 22, numRuns: 300 }).map(({ rows: given, hours, both }) => {
      const days = (minutes: number) => Array.from({ length: 40 }, (_, day) => (day % 7 < 5 ? minutes : 0));
      const workers = [
        worker('a', ['x'], days(hours[0]), 540),
        worker('b', both ? ['x', 'y'] : ['x'], days(hours[1]), 480),
        worker('c', ['y'], days(hours[2]), 600),
      ];
      return createProblem(
        given.map(([minutes, after, lane, waitDays, name], i) =>
          job(String(i), minutes, { after: before(after, i), lane, waitDays, worker: name === 0 ? workers[i % 3]!.id : null }),
        ),
        workers,
      );
    });
    expect(countBest(problems)).toBeGreaterThanOrEqual(285);
  });

  it('leaves nothing undone that could be done where the same person, or another one, is asked for', () => {
    const pair = fc.tuple(fc.nat(5), fc.nat(5));
    const cases = fc.record({
      minutes: fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 2, maxLength: 5 }),
      ...{ same: fc.array(pair, { maxLength: 1 }), other: fc.array(pair, { maxLength: 4 }), people: fc.integer({ min: 2, max: 3 }) },
    });
    for (const { minutes, same, other, people } of fc.sample(cases, { seed: 23, numRuns: 600 })) {
      const jobs = minutes.map((time, i) =>
        job(String(i), time, {
          sameAs: same.flatMap(([a, b]) => (a === i && b < i ? [String(b)] : []))[0] ?? null,
          otherThan: other.flatMap(([a, b]) => (a === i && b < i ? [String(b)] : [])),
        }),
      );
      const isBoth = jobs.some(({ sameAs, otherThan }) => sameAs !== null && otherThan.includes(sameAs));
      if (isBoth) continue;
      const given = createProblem(
        jobs,
        Array.from({ length: people }, (_, i) => worker(`w${i}`, ['x'], always)),
      );
      const best = findBest(given, createCalendars(given));
      if (best.stuck === 0) expect(planCycle(given).stuck).toEqual([]);
    }
  });

  // Source: R. L. Graham 1969, the worst case of longest first, from memory; verified by computing.
  it.each([
    [2, 7],
    [3, 11],
    [4, 15],
    [5, 19],
  ])('of longest first on %i machines ends at %i at worst; improved it is the best', (m, finish) => {
    const sizes = [...Array.from({ length: m - 1 }, (_, i) => [2 * m - 1 - i, 2 * m - 1 - i]).flat(), m, m, m];
    const given = createProblem(
      sizes.map((minutes, i) => job(String(i), minutes)),
      Array.from({ length: m }, (_, i) => worker(`w${i}`, ['x'], always)),
    );
    const longestFirst = scheduleJobs(
      given,
      createJobGraph(given.jobs),
      createCalendars(given),
      Float64Array.from(sizes, (size) => -size),
    );
    expect([Math.max(...longestFirst.ends), planCycle(given).finish]).toEqual([finish, 3 * m]);
  });
});

describe('a turn for which nobody has time enough left', () => {
  it('is said to be stuck, and keeps nobody from the others', () => {
    const jobs = [job('long', 500), job('short', 30), job('after', 10, { after: ['short'] })];
    const plan = planCycle(createProblem(jobs, [worker('a', ['x'], [240, 240], 540)]));
    expect([plan.stuck, plan.jobs.map(({ worker: by }) => by)]).toEqual([['long'], [null, 'a', 'a']]);
  });

  it('is done by the one who has it, whatever comes first in the list', () => {
    const jobs = [job('long', 300), job('short', 60)];
    const plan = planCycle(createProblem(jobs, [worker('a', ['x'], [200], 540), worker('b', ['x'], [200, 200], 540)]));
    expect(plan.stuck).toEqual([]);
    expect(plan.jobs[0]?.worker).toBe('b');
  });
});

describe('four eyes with what is done already', () => {
  it('goes to another person than who did the first, and the same person goes on where that is asked for', () => {
    const jobs = [job('check', 10, { notBy: ['a'] }), job('go on', 10, { onlyBy: 'b' }), job('gone', 10, { onlyBy: 'left the team' })];
    const plan = planCycle(createProblem(jobs, [worker('a', ['x'], always), worker('b', ['x'], always)]));
    expect(plan.jobs.map(({ worker: by }) => by)).toEqual(['b', 'b', 'a']);
    const alone = planCycle(createProblem(jobs.slice(0, 1), [worker('a', ['x'], always)]));
    expect(alone.stuck).toEqual(['check']);
  });
});

describe('a help', () => {
  const drain = (given: PlanProblem, plan: CyclePlan) => {
    const work = findWhatHelps(given, plan);
    for (let step = work.next(); ; step = work.next()) if (step.done) return step.value;
  };
  it('never leaves more undone than before, and promises just what planning anew with it gives (seed 24)', () => {
    const cases = fc.record({
      rows: fc.array(fc.tuple(fc.integer({ min: 20, max: 300 }), fc.constantFrom('x', 'y', 'z'), fc.nat(3), fc.boolean()), {
        minLength: 2,
        maxLength: 10,
      }),
      days: fc.integer({ min: 2, max: 5 }),
    });
    let helps = 0;
    for (const { rows: given, days } of fc.sample(cases, { seed: 24, numRuns: 80 })) {
      const hours = Array<number>(days).fill(240);
      const workers = [worker('a', ['x'], hours), worker('b', ['x'], hours), worker('c', ['y'], hours), worker('d', ['y', 'z'], hours)];
      const jobs = given.map(([minutes, lane, name, isApart], i) =>
        job(String(i), minutes, { lane, worker: workers[name]?.id ?? null, otherThan: isApart && i > 0 ? [String(i - 1)] : [] }),
      );
      const problem = createProblem(jobs, workers, DAY_MINUTES);
      const plan = planCycle(problem);
      for (const help of drain(problem, plan)) {
        helps += 1;
        const after = planCycle(help.changes.reduce(applyPlanChange, problem));
        expect([help.finish, help.stuck]).toEqual([after.finish, after.stuck.length]);
        expect(help.stuck).toBeLessThanOrEqual(plan.stuck.length);
        expect(help.isEnough).toBe(after.finish <= problem.endsAt);
      }
    }
    expect(helps).toBeGreaterThan(100);
  });
});
