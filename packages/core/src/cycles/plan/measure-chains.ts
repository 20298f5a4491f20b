/** Earliest times with the calendars but without the limit of people, and the way that is left behind each job. Both are lower bounds. */
import type { JobGraph } from './job-graph.ts';
import type { PlanJob, PlanProblem } from './problem.ts';
import type { WorkingTime } from '../../time/working-time.ts';
import { DAY_MINUTES, addWork, countWorkBefore, createWorkingTime, findNextWork, uniteTimes } from '../../time/working-time.ts';

export interface Calendars {
  readonly ofWorker: ReadonlyMap<string, WorkingTime>;
  /** When anybody of a lane works; no entry: nobody is in it. */
  readonly ofLane: ReadonlyMap<string, WorkingTime>;
  readonly ofAll: WorkingTime;
  /** Minutes that pass for each minute of work in a lane, nights and weekends included. */
  readonly stretchOf: ReadonlyMap<string, number>;
}

/** Cost O(people × days × lanes of each). */
export function createCalendars({ workers }: Pick<PlanProblem, 'workers'>): Calendars {
  const ofWorker = new Map(workers.map((worker) => [worker.id, createWorkingTime(worker.minutesByDay, worker.startsAt)]));
  const lanes = new Set(workers.flatMap((worker) => worker.lanes));
  const ofLane = new Map<string, WorkingTime>();
  const stretchOf = new Map<string, number>();
  for (const lane of lanes) {
    const inLane = workers.filter((worker) => worker.lanes.includes(lane));
    ofLane.set(lane, uniteTimes(inLane.map(({ id }) => ofWorker.get(id)!)));
    const most = Math.max(
      ...inLane.map(({ minutesByDay }) => minutesByDay.reduce((sum, minutes) => sum + minutes, 0) / Math.max(1, minutesByDay.length)),
    );
    stretchOf.set(lane, most > 0 ? DAY_MINUTES / most : 1);
  }
  return { ofWorker, ofLane, ofAll: uniteTimes([...ofWorker.values()]), stretchOf };
}

/** The day on which a job may begin when those before it end at a moment. */
export function addWaitDays(at: number, waitDays: number): number {
  return waitDays > 0 ? (Math.floor(at / DAY_MINUTES) + waitDays) * DAY_MINUTES : at;
}

function getTimeOf(job: PlanJob, { ofWorker, ofLane }: Calendars): WorkingTime | undefined {
  return (job.worker === null ? undefined : ofWorker.get(job.worker)) ?? ofLane.get(job.lane);
}

export interface ChainTimes {
  /** Infinity: nobody can ever do it, or one before it. */
  readonly starts: Float64Array;
  readonly ends: Float64Array;
  /** The job before it that decides when it begins; −1: none. */
  readonly decidedBy: Int32Array;
}

/** Earliest begin and end of each job if nobody had anything else to do. Cost O(jobs log windows + waits). */
export function findEarliestTimes(problem: PlanProblem, graph: JobGraph, calendars: Calendars): ChainTimes {
  const { jobs } = problem;
  const starts = new Float64Array(jobs.length);
  const ends = new Float64Array(jobs.length);
  const decidedBy = new Int32Array(jobs.length).fill(-1);
  for (const index of graph.order) {
    const job = jobs[index]!;
    let from = problem.startsAt;
    for (const earlier of graph.before[index]!) {
      if (ends[earlier]! <= from) continue;
      from = ends[earlier]!;
      decidedBy[index] = earlier;
    }
    const time = getTimeOf(job, calendars);
    const ready = Math.max(decidedBy[index] === -1 ? from : addWaitDays(from, job.waitDays), job.notBefore);
    starts[index] = time && ready < Infinity ? findNextWork(time, ready) : Infinity;
    ends[index] = time && starts[index]! < Infinity ? addWork(time, starts[index]!, job.minutes) : Infinity;
  }
  return { starts, ends, decidedBy };
}

/** How long the way behind each job is, itself included, in minutes that pass: what list scheduling goes by. Cost O(jobs + waits). */
export function measureTails({ jobs }: PlanProblem, graph: JobGraph, { stretchOf }: Calendars): Float64Array {
  const tails = new Float64Array(jobs.length);
  for (const index of [...graph.order].reverse()) {
    const job = jobs[index]!;
    const behind = graph.behind[index]!.reduce((longest, next) => Math.max(longest, tails[next]! + jobs[next]!.waitDays * DAY_MINUTES), 0);
    tails[index] = behind + job.minutes * (stretchOf.get(job.lane) ?? 1);
  }
  return tails;
}

/** The plain work behind each job, itself left out, in minutes. */
function measureWorkBehind({ jobs }: PlanProblem, graph: JobGraph): Float64Array {
  const work = new Float64Array(jobs.length);
  for (const index of [...graph.order].reverse())
    for (const next of graph.behind[index]!) work[index] = Math.max(work[index]!, work[next]! + jobs[next]!.minutes);
  return work;
}

/**
 * No plan can end sooner. The larger of: the longest chain; and for each person with work of her own and each lane, for each set of its jobs
 * that begin no sooner than one of them and have at least so much behind them, when the people could be through that work, and then
 * the least of what is behind. Cost O(tails tried × jobs log jobs).
 */
export function findLowerBound(problem: PlanProblem, graph: JobGraph, calendars: Calendars, chain: ChainTimes): number {
  const behind = measureWorkBehind(problem, graph);
  let bound = chain.ends.reduce((last, end) => (end < Infinity ? Math.max(last, end) : last), problem.startsAt);
  for (const { times, members } of listResources(problem, calendars)) {
    const able = members.filter((index) => chain.starts[index]! < Infinity).sort((a, b) => chain.starts[b]! - chain.starts[a]!);
    for (const least of listThresholds(able.map((index) => behind[index]!))) {
      let [work, tail] = [0, Infinity];
      for (const [place, index] of able.entries()) {
        if (behind[index]! < least) continue;
        work += problem.jobs[index]!.minutes;
        tail = Math.min(tail, behind[index]!);
        const next = able[place + 1];
        if (next !== undefined && chain.starts[next] === chain.starts[index]) continue;
        bound = Math.max(bound, addWork(calendars.ofAll, finishTogether(times, chain.starts[index]!, work), tail));
      }
    }
  }
  return bound;
}

interface Resource {
  readonly times: readonly WorkingTime[];
  readonly members: readonly number[];
}

function listResources({ jobs, workers }: PlanProblem, { ofWorker }: Calendars): Resource[] {
  const lanes = new Map<string, number[]>();
  const own = new Map<string, number[]>();
  jobs.forEach(({ lane, worker }, index) => {
    (lanes.get(lane) ?? lanes.set(lane, []).get(lane)!).push(index);
    if (worker !== null && ofWorker.has(worker)) (own.get(worker) ?? own.set(worker, []).get(worker)!).push(index);
  });
  return [
    ...[...own].map(([worker, members]) => ({ members, times: [ofWorker.get(worker)!] })),
    // Turns of a lane that somebody from elsewhere does are no work of the lane.
    ...[...lanes].map(([lane, members]) => {
      const inLane = new Set(workers.filter((worker) => worker.lanes.includes(lane)).map(({ id }) => id));
      return {
        members: members.filter((index) => jobs[index]!.worker === null || inLane.has(jobs[index]!.worker)),
        times: [...inLane].map((id) => ofWorker.get(id)!),
      };
    }),
  ].filter(({ times }) => times.length > 0);
}

const THRESHOLDS = 8;

/** 0, and some of the tails that occur. */
function listThresholds(tails: readonly number[]): number[] {
  const sorted = [...new Set(tails)].sort((a, b) => a - b);
  const step = Math.max(1, Math.floor(sorted.length / THRESHOLDS));
  return [0, ...sorted.filter((_, index) => index % step === 0)].filter((value, index, all) => all.indexOf(value) === index);
}

/** When several people, all busy from a moment, have done so much work. Cost O(people × log windows × log minutes). */
function finishTogether(times: readonly WorkingTime[], from: number, work: number): number {
  if (times.length === 1) return addWork(times[0]!, from, work);
  const done = (at: number) => times.reduce((sum, time) => sum + countWorkBefore(time, at) - countWorkBefore(time, from), 0);
  let [low, high] = [from, from + DAY_MINUTES];
  const last = Math.max(...times.map(({ ends }) => ends.at(-1) ?? 0));
  while (done(high) < work) {
    if (high >= last) return Infinity;
    [low, high] = [high, high + (high - from)];
  }
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (done(middle) >= work) high = middle;
    else low = middle;
  }
  return high;
}
