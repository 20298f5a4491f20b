/**
 * The critical-path method (J. E. Kelley and M. R. Walker 1959) on plain minutes: no calendar, no limit of people. Times are minutes from
 * the begin; a float of 0 is critical. Cost O(jobs + waits).
 */
import { createJobGraph } from './job-graph.ts';

export interface TimedJob {
  readonly id: string;
  readonly minutes: number;
  readonly after: readonly string[];
}

interface JobTimes {
  readonly id: string;
  readonly earliestStart: number;
  readonly earliestEnd: number;
  readonly latestStart: number;
  readonly latestEnd: number;
  readonly float: number;
}

export interface CriticalPath {
  readonly minutes: number;
  /** In the order of the jobs. */
  readonly jobs: readonly JobTimes[];
  /** One longest chain, from its first to its last job. */
  readonly path: readonly string[];
}

export function findCriticalPath(jobs: readonly TimedJob[]): CriticalPath {
  const { order, before, behind } = createJobGraph(jobs);
  const starts = new Float64Array(jobs.length);
  const minutesOf = (index: number) => jobs[index]!.minutes;
  for (const index of order) for (const next of behind[index]!) starts[next] = Math.max(starts[next]!, starts[index]! + minutesOf(index));
  const end = order.reduce((last, index) => Math.max(last, starts[index]! + minutesOf(index)), 0);
  const latest = new Float64Array(jobs.length).fill(end);
  for (const index of [...order].reverse())
    for (const earlier of before[index]!) latest[earlier] = Math.min(latest[earlier]!, latest[index]! - minutesOf(index));
  const times = jobs.map(({ id, minutes }, index) => ({
    ...{ id, earliestStart: starts[index]!, earliestEnd: starts[index]! + minutes },
    ...{ latestStart: latest[index]! - minutes, latestEnd: latest[index]!, float: latest[index]! - starts[index]! - minutes },
  }));
  return { minutes: end, jobs: times, path: followBack(times, before, end) };
}

function followBack(times: readonly JobTimes[], before: readonly (readonly number[])[], end: number): string[] {
  const path: string[] = [];
  let at = times.findIndex((job) => job.earliestEnd === end);
  while (at >= 0) {
    const job = times[at]!;
    path.unshift(job.id);
    at = before[at]!.find((earlier) => times[earlier]!.earliestEnd === job.earliestStart) ?? -1;
  }
  return path;
}
