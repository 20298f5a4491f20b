/**
 * Serial placing: the jobs one after another, each with whoever has it done first. Unlike list scheduling it may keep somebody free for what
 * comes soon, and so some order of the jobs leads to a best plan.
 */
import { createHeap } from '../../graph/heap.ts';
import { addWork, findNextWork } from '../../time/working-time.ts';
import type { WorkingTime } from '../../time/working-time.ts';
import type { JobGraph } from './job-graph.ts';
import { addWaitDays } from './measure-chains.ts';
import type { Calendars } from './measure-chains.ts';
import type { PlanProblem } from './problem.ts';
import type { Schedule } from './schedule-jobs.ts';
import type { WhoDoes } from './who-does.ts';

export interface Placing {
  /** The place of each job in the order, the smallest first; what it waits for goes before it all the same. */
  readonly list: Float64Array;
  /** By job: how many of those who would have it done first are passed over. */
  readonly passedOver: Uint8Array;
}

export interface PlacingParts {
  readonly problem: PlanProblem;
  readonly graph: JobGraph;
  readonly calendars: Calendars;
  readonly who: WhoDoes;
}

/** Cost O(jobs × people of a lane × log windows). */
export function placeJobs({ problem, graph, calendars, who }: PlacingParts, { list, passedOver }: Placing): Schedule {
  const { jobs, workers } = problem;
  const times = workers.map(({ id }) => calendars.ofWorker.get(id));
  const starts = new Float64Array(jobs.length).fill(Infinity);
  const ends = new Float64Array(jobs.length).fill(Infinity);
  const doneBy: (string | null)[] = jobs.map(() => null);
  const free = new Float64Array(workers.length).fill(problem.startsAt);
  const waits = graph.before.map(({ length }) => length);
  const pieces = who.create();
  const ready = createHeap<number>((a, b) => list[a]! < list[b]! || (list[a]! === list[b]! && a < b));
  for (const index of graph.order) if (waits[index] === 0) ready.push(index);
  for (let index = ready.pop(); index !== undefined; index = ready.pop()) {
    const job = jobs[index]!;
    const piece = who.pieceOf[index]!;
    const before = graph.before[index]!;
    const earlier = before.reduce((last, other) => Math.max(last, ends[other]!), problem.startsAt);
    const from = Math.max(before.length === 0 ? earlier : addWaitDays(earlier, job.waitDays), job.notBefore);
    const given = pieces.getPerson(piece);
    const chosen = chooseWorker(given >= 0 ? [given] : who.able[piece]!, {
      ...{ from, minutes: job.minutes, free, times, passedOver: passedOver[index]! },
      may: (worker) => pieces.may(piece, worker),
    });
    if (!chosen) continue;
    const { worker, start, end } = chosen;
    [starts[index], ends[index], doneBy[index], free[worker]] = [start, end, workers[worker]!.id, end];
    pieces.give(piece, worker);
    for (const later of graph.behind[index]!) {
      waits[later]! -= 1;
      if (waits[later] === 0) ready.push(later);
    }
  }
  return { starts, ends, workers: doneBy };
}

interface Choice {
  readonly worker: number;
  readonly start: number;
  readonly end: number;
}

interface Choosing {
  readonly from: number;
  readonly minutes: number;
  readonly free: Float64Array;
  readonly times: readonly (WorkingTime | undefined)[];
  readonly passedOver: number;
  readonly may: (worker: number) => boolean;
}

/** Whoever has it done first; among equals whoever was busy the longest, so that the others stay free for what comes. */
function chooseWorker(able: readonly number[], { from, minutes, free, times, passedOver, may }: Choosing): Choice | undefined {
  const choices: Choice[] = [];
  for (const worker of able) {
    const time = times[worker];
    if (!time) continue;
    const start = findNextWork(time, Math.max(from, free[worker]!));
    const end = start < Infinity ? addWork(time, start, minutes) : Infinity;
    if (end < Infinity && may(worker)) choices.push({ worker, start, end });
  }
  choices.sort((a, b) => a.end - b.end || free[b.worker]! - free[a.worker]! || a.worker - b.worker);
  return choices[Math.min(passedOver, choices.length - 1)];
}
