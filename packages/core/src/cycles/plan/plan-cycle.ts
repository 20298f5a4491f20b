/**
 * Will it fit? A feasible plan by list scheduling, its longest chain, the load of every lane and day, and the bound below which no plan ends
 * (design: plan). Cost O((jobs + waits) log jobs) for each of the lists tried.
 */
import type { JobGraph } from './job-graph.ts';
import { createJobGraph } from './job-graph.ts';
import type { Calendars, ChainTimes } from './measure-chains.ts';
import { createCalendars, findEarliestTimes, findLowerBound, measureTails } from './measure-chains.ts';
import { improveSchedule, isBetter } from './improve-schedule.ts';
import type { PlacingParts } from './place-jobs.ts';
import type { PlanProblem } from './problem.ts';
import { findWhoDoes } from './who-does.ts';
import type { Schedule } from './schedule-jobs.ts';
import { scheduleJobs } from './schedule-jobs.ts';
import { countWorkBefore } from '../../time/working-time.ts';

interface PlannedJob {
  readonly id: string;
  /** Moments; null: nobody can do it. */
  readonly start: number | null;
  readonly end: number | null;
  readonly worker: string | null;
}

export interface CyclePlan {
  /** When the last job that can be done is done; the plan's begin when there is none. */
  readonly finish: number;
  readonly lowerBound: number;
  /** How far the plan is above the bound, as a share of the working time from the begin to the bound. */
  readonly gap: number;
  readonly jobs: readonly PlannedJob[];
  /** One longest chain, first job first, and when it would end if nobody had anything else to do. */
  readonly longestChain: readonly string[];
  readonly chainEnd: number;
  /** The lane with the most work for its time until the end wished for, and that share; null: there is no work. */
  readonly busiestLane: { readonly lane: string; readonly share: number } | null;
  /** Jobs that nobody can do, or that wait for such. */
  readonly stuck: readonly string[];
}

/** `isQuick`: without the improvement step, to compare many changes with one another; never to be shown or kept. */
export function planCycle(problem: PlanProblem, { isQuick = false }: { readonly isQuick?: boolean } = {}): CyclePlan {
  const graph = createJobGraph(problem.jobs);
  const calendars = createCalendars(problem);
  const chain = findEarliestTimes(problem, graph, calendars);
  const bound = findLowerBound(problem, graph, calendars, chain);
  const schedule = findBestSchedule({ problem, graph, calendars, who: findWhoDoes(problem, graph) }, isQuick ? null : bound);
  const finish = getFinish(schedule, problem.startsAt);
  const lowerBound = Math.min(finish, bound);
  const worked = (at: number) => countWorkBefore(calendars.ofAll, at) - countWorkBefore(calendars.ofAll, problem.startsAt);
  const last = findLast(chain);
  return {
    ...{ finish, lowerBound, gap: worked(lowerBound) > 0 ? worked(finish) / worked(lowerBound) - 1 : 0 },
    jobs: problem.jobs.map(({ id }, index) => ({
      ...{ id, worker: schedule.workers[index]! },
      start: toMoment(schedule.starts[index]!),
      end: toMoment(schedule.ends[index]!),
    })),
    longestChain: followBack(last, chain).map((index) => problem.jobs[index]!.id),
    chainEnd: last < 0 ? problem.startsAt : chain.ends[last]!,
    busiestLane: findBusiestLane(problem, schedule, calendars),
    stuck: problem.jobs.flatMap(({ id }, index) => (schedule.ends[index] === Infinity ? [id] : [])),
  };
}

/**
 * By the longest way behind; where lanes are unlike, by that way with the work of its lane; and by the days on which turns are due, so that a plan
 * that was kept is found again. The best of them is improved.
 */
function findBestSchedule(parts: PlacingParts, bound: number | null): Schedule {
  const { problem, graph, calendars, who } = parts;
  const tails = measureTails(problem, graph, calendars);
  const lists = [tails, weighByLane(problem, graph, calendars)].map((list) => list.map((tail) => -tail));
  if (problem.jobs.some(({ dueAt }) => dueAt !== undefined)) lists.push(orderByDueDay(problem, tails));
  const schedules = lists.map((list) => scheduleJobs(problem, graph, calendars, list, who));
  const first = schedules.reduce((best, next) => (isBetter(next, best) ? next : best));
  return bound === null ? first : improveSchedule(parts, first, bound);
}

function orderByDueDay({ jobs }: PlanProblem, tails: Float64Array): Float64Array<ArrayBuffer> {
  const order = jobs.map((_, index) => index);
  const due = (index: number) => jobs[index]!.dueAt ?? Infinity;
  order.sort((a, b) => (due(a) === due(b) ? tails[b]! - tails[a]! : due(a) - due(b)));
  const list = new Float64Array(jobs.length);
  order.forEach((index, place) => (list[index] = place));
  return list;
}

/** The way behind a job where each minute counts by how much its lane has to do: what feeds a crowded lane goes first. */
function weighByLane(problem: PlanProblem, graph: JobGraph, calendars: Calendars): Float64Array {
  const work = new Map<string, number>();
  for (const { lane, minutes } of problem.jobs) work.set(lane, (work.get(lane) ?? 0) + minutes);
  const dayOf = new Map<string, number>();
  for (const { lanes, minutesByDay } of problem.workers)
    for (const lane of lanes) dayOf.set(lane, (dayOf.get(lane) ?? 0) + minutesByDay.reduce((sum, minutes) => sum + minutes, 0));
  const crowdOf = new Map([...work].map(([lane, minutes]) => [lane, minutes / Math.max(1, dayOf.get(lane) ?? 0)]));
  const most = Math.max(Number.MIN_VALUE, ...crowdOf.values());
  const stretchOf = new Map([...crowdOf].map(([lane, crowd]) => [lane, (calendars.stretchOf.get(lane) ?? 1) * (1 + (4 * crowd) / most)]));
  return measureTails(problem, graph, { ...calendars, stretchOf });
}

const toMoment = (at: number) => (at === Infinity ? null : at);

function getFinish({ ends }: Schedule, startsAt: number): number {
  return ends.reduce((last, end) => (end < Infinity ? Math.max(last, end) : last), startsAt);
}

function findLast({ ends }: ChainTimes): number {
  let last = -1;
  ends.forEach((end, index) => {
    if (end < Infinity && (last < 0 || end > ends[last]!)) last = index;
  });
  return last;
}

function followBack(last: number, { decidedBy }: ChainTimes): number[] {
  const path: number[] = [];
  for (let at = last; at >= 0; at = decidedBy[at]!) path.unshift(at);
  return path;
}

/** The lane with the least time to spare until the end that is wished for. */
function findBusiestLane(problem: PlanProblem, { ends }: Schedule, { ofWorker }: Calendars): CyclePlan['busiestLane'] {
  const lanes = new Map<string, { end: number; minutes: number }>();
  problem.jobs.forEach(({ lane, minutes }, index) => {
    const end = ends[index]!;
    if (end === Infinity) return;
    const before = lanes.get(lane) ?? { end: 0, minutes: 0 };
    lanes.set(lane, { end: Math.max(before.end, end), minutes: before.minutes + minutes });
  });
  const shares = [...lanes].map(([lane, { end, minutes }]) => {
    const times = problem.workers.filter((worker) => worker.lanes.includes(lane)).map(({ id }) => ofWorker.get(id)!);
    const time = times.reduce((sum, own) => sum + countWorkBefore(own, problem.endsAt) - countWorkBefore(own, problem.startsAt), 0);
    return { lane, end, share: time > 0 ? minutes / time : Infinity };
  });
  const busiest = shares.sort((a, b) => b.share - a.share || b.end - a.end)[0];
  return busiest ? { lane: busiest.lane, share: busiest.share } : null;
}
