/**
 * List scheduling (R. L. Graham 1966): whenever somebody is free, she takes the first job of the list that may begin and that she may do.
 * Never worse than 2 − 1/m times the best on m people without calendars (Graham 1966). Work goes over nights and weekends; it is not
 * handed from one person to another.
 */
import { createHeap } from '../../graph/heap.ts';
import type { Heap } from '../../graph/heap.ts';
import type { JobGraph } from './job-graph.ts';
import type { Calendars } from './measure-chains.ts';
import { addWaitDays } from './measure-chains.ts';
import type { PlanProblem } from './problem.ts';
import type { WhoDoes } from './who-does.ts';
import { findWhoDoes } from './who-does.ts';
import type { KeepApart } from '../keep-apart.ts';
import { addWork, findNextWork } from '../../time/working-time.ts';

export interface Schedule {
  /** Moments by job; Infinity: nobody can do it. */
  readonly starts: Float64Array;
  readonly ends: Float64Array;
  /** Who does it; null: nobody can. */
  readonly workers: readonly (string | null)[];
}

interface Event {
  readonly at: number;
  readonly job: number;
  readonly worker: number;
}

/** `list`: the place of each job in the list, the smallest first. Cost O((jobs + waits) log jobs + jobs × people of a lane). */
export function scheduleJobs(
  problem: PlanProblem,
  graph: JobGraph,
  calendars: Calendars,
  list: Float64Array,
  who: WhoDoes = findWhoDoes(problem, graph),
): Schedule {
  return new Scheduler({ problem, graph, calendars, list, who }).run();
}

interface SchedulerParts {
  readonly problem: PlanProblem;
  readonly graph: JobGraph;
  readonly calendars: Calendars;
  readonly list: Float64Array;
  readonly who: WhoDoes;
}

class Scheduler {
  readonly #starts: Float64Array;
  readonly #ends: Float64Array;
  readonly #workers: (number | null)[];
  readonly #waits: number[];
  readonly #events = createHeap<Event>((a, b) => a.at < b.at);
  readonly #own: Heap<number>[];
  readonly #ofLane = new Map<string, Heap<number>>();
  readonly #busyUntil: Float64Array;
  readonly #wakesAt: Float64Array;
  readonly problem: PlanProblem;
  readonly graph: JobGraph;
  readonly calendars: Calendars;
  readonly list: Float64Array;
  readonly who: WhoDoes;
  readonly #pieces: KeepApart;
  #now = 0;

  constructor({ problem, graph, calendars, list, who }: SchedulerParts) {
    [this.problem, this.graph, this.calendars, this.list, this.who] = [problem, graph, calendars, list, who];
    this.#pieces = who.create();
    const { jobs, workers } = problem;
    this.#starts = new Float64Array(jobs.length).fill(Infinity);
    this.#ends = new Float64Array(jobs.length).fill(Infinity);
    this.#workers = jobs.map(() => null);
    this.#waits = graph.before.map(({ length }) => length);
    this.#busyUntil = new Float64Array(workers.length).fill(problem.startsAt);
    this.#wakesAt = new Float64Array(workers.length).fill(-1);
    this.#own = workers.map(() => this.#createList());
    for (const lane of who.laneOf.keys()) this.#ofLane.set(lane, this.#createList());
  }

  #createList(): Heap<number> {
    return createHeap<number>((a, b) => this.list[a]! < this.list[b]! || (this.list[a]! === this.list[b]! && a < b));
  }

  run(): Schedule {
    const { problem, graph } = this;
    for (const index of graph.order) if (this.#waits[index] === 0) this.#release(index, problem.startsAt);
    for (let first = this.#events.peek(); first; first = this.#events.peek()) {
      const at = first.at;
      this.#now = at;
      const awake = new Set<number>();
      for (let event = this.#events.peek(); event?.at === at; event = this.#events.peek()) {
        this.#events.pop();
        if (event.job >= 0) for (const worker of this.#offer(event.job)) awake.add(worker);
        else awake.add(event.worker);
      }
      // In the order of the list of people, so that equals are treated alike.
      for (const worker of [...awake].sort((a, b) => a - b)) this.#take(worker, at);
    }
    return {
      ...{ starts: this.#starts, ends: this.#ends },
      workers: this.#workers.map((worker) => (worker === null ? null : problem.workers[worker]!.id)),
    };
  }

  /** A job may begin when those before it are done, its days are over and its own moment has come. */
  #release(index: number, endOfEarlier: number): void {
    const job = this.problem.jobs[index]!;
    const isFirst = this.graph.before[index]!.length === 0;
    const at = Math.max(isFirst ? endOfEarlier : addWaitDays(endOfEarlier, job.waitDays), job.notBefore, this.problem.startsAt);
    this.#events.push({ at, job: index, worker: -1 });
  }

  /** Puts a job where those who may do it look for work; answers them. */
  #offer(index: number): readonly number[] {
    const piece = this.who.pieceOf[index]!;
    const given = this.#pieces.getPerson(piece);
    const able = this.who.able[piece]!;
    if (given >= 0 || able.length === 1) {
      const worker = given >= 0 ? given : able[0]!;
      this.#own[worker]!.push(index);
      return [worker];
    }
    this.#ofLane.get(this.problem.jobs[index]!.lane)?.push(index);
    return able;
  }

  #take(worker: number, at: number): void {
    if (this.#busyUntil[worker]! > at) return;
    const time = this.calendars.ofWorker.get(this.problem.workers[worker]!.id);
    const next = time ? findNextWork(time, at) : Infinity;
    if (!time || next === Infinity) return;
    if (next > at) {
      if (this.#wakesAt[worker] === next || !this.#hasWork(worker)) return;
      this.#events.push({ at: next, job: -1, worker });
      this.#wakesAt[worker] = next;
      return;
    }
    const index = this.#choose(worker, at);
    if (index === undefined) return;
    const end = addWork(time, at, this.problem.jobs[index]!.minutes);
    this.#workers[index] = worker;
    this.#pieces.give(this.who.pieceOf[index]!, worker);
    this.#starts[index] = at;
    this.#ends[index] = end;
    this.#busyUntil[worker] = end;
    this.#events.push({ at: end, job: -1, worker });
    for (const later of this.graph.behind[index]!) {
      this.#waits[later]! -= 1;
      if (this.#waits[later] === 0)
        this.#release(
          later,
          this.graph.before[later]!.reduce((last, job) => Math.max(last, this.#ends[job]!), 0),
        );
    }
  }

  #hasWork(worker: number): boolean {
    return this.#own[worker]!.size() > 0 || this.problem.workers[worker]!.lanes.some((lane) => this.#ofLane.get(lane)!.size() > 0);
  }

  /** The first of the lists that she looks into; what she must not do stays there. */
  #choose(worker: number, at: number): number | undefined {
    const lists = [this.#own[worker]!, ...this.problem.workers[worker]!.lanes.map((lane) => this.#ofLane.get(lane)!)];
    let best: { list: Heap<number>; index: number } | undefined;
    const aside: { list: Heap<number>; index: number }[] = [];
    for (const list of lists) {
      let index = list.pop();
      while (index !== undefined) {
        if (!this.#giveToMate(worker, index)) {
          const isInTime = this.#isInTime(worker, index, at);
          if (isInTime && this.#pieces.may(this.who.pieceOf[index]!, worker)) break;
          // What none of those who may do it gets through any more is out of the way for good.
          if (isInTime || this.#hasTimeFor(index, at)) aside.push({ list, index });
        }
        index = list.pop();
      }
      if (index === undefined) continue;
      const isFirst =
        best === undefined ||
        this.list[index]! < this.list[best.index]! ||
        (this.list[index] === this.list[best.index] && index < best.index);
      const refused = isFirst ? best : { list, index };
      if (refused) aside.push(refused);
      if (isFirst) best = { list, index };
    }
    for (const { list, index } of aside) list.push(index);
    return best?.index;
  }

  #hasTimeFor(index: number, at: number): boolean {
    const piece = this.who.pieceOf[index]!;
    const given = this.#pieces.getPerson(piece);
    return (given >= 0 ? [given] : this.who.able[piece]!).some((worker) => this.#isInTime(worker, index, at));
  }

  /** Whether what is left of her time is enough for it, once she is free. */
  #isInTime(worker: number, index: number, at: number): boolean {
    const time = this.calendars.ofWorker.get(this.problem.workers[worker]!.id);
    return time !== undefined && addWork(time, Math.max(at, this.#busyUntil[worker]!), this.problem.jobs[index]!.minutes) < Infinity;
  }

  /** Meanwhile somebody has taken its mate: it goes to her list. */
  #giveToMate(worker: number, index: number): boolean {
    const mate = this.#pieces.getPerson(this.who.pieceOf[index]!);
    if (mate < 0 || mate === worker) return false;
    this.#own[mate]!.push(index);
    this.#events.push({ at: Math.max(this.#busyUntil[mate]!, this.#now), job: -1, worker: mate });
    return true;
  }
}
