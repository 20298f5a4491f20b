import fc from 'fast-check';
import { alg, Graph } from '@dagrejs/graphlib';
import { describe, expect, it } from 'vitest';
import { findCriticalPath } from './critical-path.ts';
import { findWhatHelps } from './find-what-helps.ts';
import { createJobGraph } from './job-graph.ts';
import { createCalendars } from './measure-chains.ts';
import { applyPlanChange } from './plan-changes.ts';
import { planCycle } from './plan-cycle.ts';
import type { PlanJob, PlanProblem, PlanWorker } from './problem.ts';
import { scheduleJobs } from './schedule-jobs.ts';
import { DAY_MINUTES, addWork, countWorkBefore, createWorkingTime, findNextWork } from '../../time/working-time.ts';

const job = (id: string, minutes: number, more: Partial<PlanJob> = {}): PlanJob => ({
  ...{ id, run: 'r', lane: 'l', minutes, after: [], waitDays: 0, notBefore: 0, worker: null, sameAs: null, otherThan: [] },
  ...more,
});
const allDay = (days: number) => Array<number>(days).fill(DAY_MINUTES);
const machines = (count: number, lane = 'l', minutesByDay = allDay(60), startsAt = 0): PlanWorker[] =>
  Array.from({ length: count }, (_, i) => ({ id: `${lane}${i}`, lanes: [lane], minutesByDay, startsAt }));
const problem = (jobs: PlanJob[], workers: PlanWorker[], more: Partial<PlanProblem> = {}): PlanProblem => ({
  ...{ jobs, workers, startsAt: 0, endsAt: DAY_MINUTES, runs: [...new Set(jobs.map(({ run }) => run))].map((id) => ({ id, rank: 0 })) },
  lanes: [...new Set(workers.flatMap(({ lanes }) => lanes))].map((id) => ({ id, minutesByDay: allDay(60), startsAt: 0 })),
  ...more,
});

/** By the list as it is given, on machines that never rest. */
function finishByList(jobs: PlanJob[], count: number): number {
  const given = problem(jobs, machines(count));
  const graph = createJobGraph(jobs);
  const { ends } = scheduleJobs(
    given,
    graph,
    createCalendars(given),
    Float64Array.from(jobs, (_, index) => index),
  );
  return Math.max(...ends);
}

describe('working time', () => {
  const time = createWorkingTime([120, 0, 120, 120], 540);
  it('goes over nights and free days', () => {
    expect(findNextWork(time, 0)).toBe(540);
    expect(findNextWork(time, 700)).toBe(2 * DAY_MINUTES + 540);
    expect(addWork(time, 600, 60)).toBe(660);
    expect(addWork(time, 600, 61)).toBe(2 * DAY_MINUTES + 541);
    expect(addWork(time, 600, 180)).toBe(2 * DAY_MINUTES + 660);
    expect(addWork(time, 600, 301)).toBe(Infinity);
    expect(countWorkBefore(time, 9 * DAY_MINUTES)).toBe(360);
    expect(findNextWork(time, 9 * DAY_MINUTES)).toBe(Infinity);
  });
  it('round the clock is one window', () =>
    expect(createWorkingTime(allDay(5), 0)).toMatchObject({ starts: [0], ends: [5 * DAY_MINUTES] }));
});

describe('the critical path', () => {
  // Source: Hillier & Lieberman, Introduction to Operations Research, the construction project, in weeks; table from memory, results verified by computing.
  const WEEKS = 'A2 B4A C10B D6C E4C F5E G7D H9EG I7C J8FI K4J L5J M2H N6KL'.split(' ').map((text) => {
    const [, id = '', weeks = '', after = ''] = /^([A-Z])(\d+)([A-Z]*)$/.exec(text) ?? [];
    return { id, minutes: Number(weeks), after: [...after] };
  });

  it('of the construction project takes 44 weeks, by A B C E F J L N', () => {
    const { minutes, path, jobs } = findCriticalPath(WEEKS);
    expect([minutes, path.join('')]).toEqual([44, 'ABCEFJLN']);
    const slack = Object.fromEntries(jobs.filter(({ float }) => float > 0).map(({ id, float }) => [id, float]));
    expect(slack).toEqual({ D: 4, G: 4, H: 4, M: 4, I: 2, K: 1 });
  });

  it('is the longest path of @dagrejs/graphlib 4.0.6, on seeded random projects', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 20 }), fc.array(fc.nat(30), { maxLength: 4 })), { minLength: 1, maxLength: 30 }),
        (rows) => {
          const jobs = rows.map(([minutes, after], i) => ({ id: String(i), minutes, after: after.filter((j) => j < i).map(String) }));
          const graph = new Graph();
          for (const { id, minutes } of jobs) graph.setEdge('begin', id, -minutes);
          for (const { id, minutes, after } of jobs) for (const earlier of after) graph.setEdge(earlier, id, -minutes);
          const byId = Object.values(alg.bellmanFord(graph, 'begin', (edge) => graph.edge(edge) as number)) as { distance: number }[];
          expect(findCriticalPath(jobs).minutes).toBe(-Math.min(...byId.map(({ distance }) => distance)));
        },
      ),
      { seed: 5 },
    );
  });

  it('refuses a circle', () =>
    expect(() =>
      findCriticalPath([
        { id: 'a', minutes: 1, after: ['b'] },
        { id: 'b', minutes: 1, after: ['a'] },
      ]),
    ).toThrow(RangeError));
});

describe('list scheduling', () => {
  // Source: R. L. Graham 1966/69, the anomalies, from memory; verified by computing.
  const TIMES = [3, 2, 2, 2, 4, 4, 4, 4, 9];
  const anomaly = (times: number[], waits: readonly (readonly [number, number])[]) =>
    times.map((minutes, i) =>
      job(String(i + 1), minutes, { after: waits.filter(([, later]) => later === i + 1).map(([earlier]) => String(earlier)) }),
    );
  const WAITS = [
    [1, 9],
    [4, 5],
    [4, 6],
    [4, 7],
    [4, 8],
  ] as const;
  it.each([
    ['as it is, on three machines', anomaly(TIMES, WAITS), 3, 12],
    ['a fourth machine makes it later', anomaly(TIMES, WAITS), 4, 15],
    [
      'shorter jobs make it later',
      anomaly(
        TIMES.map((t) => t - 1),
        WAITS,
      ),
      3,
      13,
    ],
    [
      'fewer waits make it later',
      anomaly(
        TIMES,
        WAITS.filter(([, later]) => later !== 5 && later !== 6),
      ),
      3,
      16,
    ],
  ])('shows Graham’s anomaly: %s', (_, jobs, count, finish) => expect(finishByList(jobs, count)).toBe(finish));

  // Common practice, no source: 1,000 tests take one machine 20 days of 8 h, two 10 days, ten 2 days; round the clock one needs 6 2/3 days (arithmetic).
  it.each([
    [1, 480, 20],
    [2, 480, 10],
    [10, 480, 2],
    [1, DAY_MINUTES, 20 / 3],
  ])('lets %i machines of %i minutes a day run 1,000 tests in %d days', (count, minutes, days) => {
    const jobs = Array.from({ length: 1_000 }, (_, i) => job(String(i), 9.6));
    const { finish } = planCycle(problem(jobs, machines(count, 'l', Array<number>(40).fill(minutes))));
    const worked = Math.floor(finish / DAY_MINUTES) + (finish % DAY_MINUTES) / minutes;
    expect(Math.abs(worked - days)).toBeLessThan(0.02);
  });

  it('waits days, respects the person, never gives both of two to one and both of a pair to one', () => {
    const jobs = [
      job('a', 60),
      job('b', 60, { after: ['a'], waitDays: 2 }),
      job('c', 60, { after: ['a'], otherThan: ['a'] }),
      job('d', 60, { after: ['a'], sameAs: 'a' }),
      job('e', 30, { worker: 'l1' }),
    ];
    const { jobs: planned } = planCycle(problem(jobs, machines(2, 'l', Array<number>(9).fill(120), 540)));
    const at = new Map(planned.map((p) => [p.id, p]));
    expect(at.get('b')?.start).toBe(2 * DAY_MINUTES + 540);
    expect(at.get('c')?.worker).not.toBe(at.get('a')?.worker);
    expect(at.get('d')?.worker).toBe(at.get('a')?.worker);
    expect(at.get('e')?.worker).toBe('l1');
  });

  it('lets what feeds a crowded lane go first, by the work of a lane for the people it has', () => {
    // Ten people share the most work; one person alone has three jobs behind a shorter way.
    const wide = Array.from({ length: 10 }, (_, i) => job(`wide ${i}`, 120, { lane: 'wide', after: i === 0 ? ['to wide'] : [] }));
    const narrow = Array.from({ length: 3 }, (_, i) => job(`narrow ${i}`, 100, { lane: 'narrow', after: ['to narrow'] }));
    const jobs = [job('to wide', 60), job('to narrow', 60), ...wide, ...narrow];
    const plan = planCycle(problem(jobs, [...machines(1), ...machines(10, 'wide'), ...machines(1, 'narrow')]));
    expect(plan.finish).toBe(60 + 3 * 100);
  });

  it('says what nobody can do, and plans the rest', () => {
    const plan = planCycle(problem([job('a', 10), job('b', 10, { lane: 'empty' }), job('c', 10, { after: ['b'] })], machines(1)));
    expect([plan.stuck, plan.finish]).toEqual([['b', 'c'], 10]);
  });
});

/** Small problems of one lane, without calendars: every order of every job on every machine. */
function findOptimum(jobs: readonly PlanJob[], count: number): number {
  let best = Infinity;
  const ends = new Map<string, number>();
  const free = Array<number>(count).fill(0);
  const visit = (left: readonly PlanJob[]) => {
    if (Math.max(...free) >= best) return;
    if (left.length === 0) return void (best = Math.max(...free));
    for (const next of left) {
      if (!next.after.every((id) => ends.has(id))) continue;
      const ready = Math.max(0, ...next.after.map((id) => ends.get(id) ?? 0));
      for (let m = 0; m < count; m += 1) {
        const before = free[m]!;
        if (free.indexOf(before) < m) continue;
        free[m] = Math.max(before, ready) + next.minutes;
        ends.set(next.id, free[m]!);
        visit(left.filter((other) => other !== next));
        ends.delete(next.id);
        free[m] = before;
      }
    }
  };
  visit(jobs);
  return best;
}

describe('the plan, beside brute force on seeded random small cases', () => {
  const cases = fc.record({
    count: fc.integer({ min: 1, max: 3 }),
    rows: fc.array(fc.tuple(fc.integer({ min: 1, max: 9 }), fc.array(fc.nat(5), { maxLength: 2 })), { minLength: 1, maxLength: 6 }),
  });

  it('never ends before its bound, nor the bound after the optimum, nor the plan after twice of it', () => {
    fc.assert(
      fc.property(cases, ({ count, rows }) => {
        const jobs = rows.map(([minutes, after], i) => job(String(i), minutes, { after: after.filter((j) => j < i).map(String) }));
        const plan = planCycle(problem(jobs, machines(count)));
        const optimum = findOptimum(jobs, count);
        expect(plan.lowerBound).toBeLessThanOrEqual(optimum);
        expect(plan.finish).toBeGreaterThanOrEqual(optimum);
        // Graham 1966: 2 − 1/m.
        expect(plan.finish).toBeLessThanOrEqual(optimum * (2 - 1 / count) + 1e-9);
      }),
      { seed: 12, numRuns: 300 },
    );
  });

  it('breaks no rule: waits, days, one job at a time, only in working time', () => {
    const lanes = ['x', 'y'];
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 200 }), fc.nat(1), fc.nat(2), fc.array(fc.nat(20), { maxLength: 2 })), {
          minLength: 1,
          maxLength: 25,
        }),
        (rows) => {
          const jobs = rows.map(([minutes, lane, waitDays, after], i) =>
            job(String(i), minutes, { lane: lanes[lane]!, waitDays, after: after.filter((j) => j < i).map(String) }),
          );
          const days = Array.from({ length: 90 }, (_, day) => (day % 7 < 5 ? 150 : 0));
          const given = problem(jobs, [...machines(2, 'x', days, 540), ...machines(1, 'y', days, 600)]);
          const plan = planCycle(given);
          const at = new Map(plan.jobs.map((planned) => [planned.id, planned]));
          const timeOf = createCalendars(given).ofWorker;
          for (const { id, minutes, after, waitDays } of jobs) {
            const { start, end, worker } = at.get(id)!;
            const time = timeOf.get(worker!)!;
            expect(countWorkBefore(time, end!) - countWorkBefore(time, start!)).toBe(minutes);
            for (const earlier of after) {
              const before = at.get(earlier)!.end!;
              expect(start!).toBeGreaterThanOrEqual(waitDays > 0 ? (Math.floor(before / DAY_MINUTES) + waitDays) * DAY_MINUTES : before);
            }
          }
          for (const a of plan.jobs)
            for (const b of plan.jobs)
              if (a.id < b.id && a.worker === b.worker) expect(a.end! <= b.start! || b.end! <= a.start!).toBe(true);
          expect(plan.lowerBound).toBeLessThanOrEqual(plan.finish);
        },
      ),
      { seed: 13, numRuns: 150 },
    );
  });
});

describe('what would help', () => {
  const days = Array<number>(40).fill(120);
  const jobs = Array.from({ length: 12 }, (_, i) => job(String(i), 60, { run: String(i), worker: 'l0' }));
  const lanes = [
    { id: 'l', minutesByDay: days, startsAt: 540 },
    { id: 'k', minutesByDay: days, startsAt: 540 },
  ];
  const given = problem(jobs, [...machines(1, 'l', days, 540), ...machines(3, 'k', days, 540)], { endsAt: 4 * DAY_MINUTES, lanes });

  const help = (of: PlanProblem) => {
    const work = findWhatHelps(of, planCycle(of));
    for (let step = work.next(); ; step = work.next()) if (step.done) return step.value;
  };

  it('moves a person, adds one, leaves out the fewest runs; each with the finish that planning again gives', () => {
    expect(planCycle(given).finish).toBe(5 * DAY_MINUTES + 660);
    const found = help(given);
    expect(found.find(({ changes }) => changes[0]?.kind === 'move person')).toMatchObject({
      finish: 2 * DAY_MINUTES + 660,
      isEnough: true,
    });
    expect(found.find(({ changes }) => changes[0]?.kind === 'more people')).toMatchObject({ isEnough: true });
    expect(found.find(({ changes }) => changes[0]?.kind === 'leave out')?.changes[0]).toMatchObject({ runs: { length: 4 } });
    for (const { changes, finish } of found) expect(planCycle(changes.reduce(applyPlanChange, given)).finish).toBe(finish);
  });

  it('says nothing where nothing helps', () => expect(help(problem([job('a', 60)], machines(1)))).toEqual([]));
});

describe('moving a person to another lane', () => {
  it('shares the work of the lane that she leaves while somebody is still in it, and leaves it with her when nobody is', () => {
    const work = [job('a', 60, { lane: 'l', worker: 'l0' }), job('b', 60, { lane: 'm', worker: 'm0' })];
    const staffed = problem(work, [...machines(2), ...machines(1, 'm')]);
    const moved = applyPlanChange(staffed, { kind: 'move person', person: 'l0', lane: 'm' });
    expect(moved.workers.find(({ id }) => id === 'l0')?.lanes).toEqual(['m']);
    expect(moved.jobs.map(({ worker }) => worker)).toEqual([null, null]);
    const alone = problem(work, [...machines(1), ...machines(1, 'm')]);
    expect(applyPlanChange(alone, { kind: 'move person', person: 'l0', lane: 'm' }).jobs.map(({ worker }) => worker)).toEqual(['l0', null]);
  });
});
