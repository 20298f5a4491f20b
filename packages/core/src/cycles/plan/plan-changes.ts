/** What may be tried with a plan without keeping it. Adding a kind: a line in the union and one in APPLY. */
import type { PlanProblem, PlanWorker } from './problem.ts';

export type PlanChange =
  | { readonly kind: 'more people'; readonly lane: string; readonly count: number }
  | { readonly kind: 'move person'; readonly person: string; readonly lane: string }
  /** She stays in her lanes, and is in this one too. */
  | { readonly kind: 'join lane'; readonly person: string; readonly lane: string }
  | { readonly kind: 'more hours'; readonly lane: string; readonly minutes: number }
  | { readonly kind: 'share'; readonly lane: string }
  | { readonly kind: 'leave out'; readonly runs: readonly string[] };

type Apply<Kind extends PlanChange['kind']> = (problem: PlanProblem, change: Extract<PlanChange, { kind: Kind }>) => PlanProblem;

const APPLY: { readonly [Kind in PlanChange['kind']]: Apply<Kind> } = {
  'more people': (problem, { lane, count }) => {
    const own = problem.lanes.find(({ id }) => id === lane);
    const added: PlanWorker[] = Array.from({ length: count }, (_, index) => ({
      ...{ id: `one more in ${lane} ${problem.workers.length + index}`, lanes: [lane] },
      ...{ minutesByDay: own?.minutesByDay ?? [], startsAt: own?.startsAt ?? 0 },
    }));
    return share({ ...problem, workers: [...problem.workers, ...added] }, [lane]);
  },
  'move person': (problem, { person, lane }) => {
    const before = problem.workers.find(({ id }) => id === person)?.lanes ?? [];
    const workers = problem.workers.map((worker) =>
      worker.id === person ? { ...onDaysOf(problem, lane, worker), lanes: [lane] } : worker,
    );
    const left = before.filter((own) => workers.some((worker) => worker.lanes.includes(own)));
    return share({ ...problem, workers }, [...left, lane]);
  },
  'join lane': (problem, { person, lane }) => {
    const workers = problem.workers.map((worker) =>
      worker.id === person && !worker.lanes.includes(lane)
        ? { ...onDaysOf(problem, lane, worker), lanes: [...worker.lanes, lane] }
        : worker,
    );
    return share({ ...problem, workers }, [lane]);
  },
  'more hours': (problem, { lane, minutes }) => ({
    ...problem,
    workers: problem.workers.map((worker) =>
      worker.lanes.includes(lane)
        ? { ...worker, minutesByDay: worker.minutesByDay.map((own) => (own > 0 ? Math.min(own + minutes, 1_440 - worker.startsAt) : 0)) }
        : worker,
    ),
  }),
  share: (problem, { lane }) => share(problem, [lane]),
  'leave out': (problem, { runs }) => {
    const out = new Set(runs);
    return { ...problem, jobs: problem.jobs.filter(({ run }) => !out.has(run)) };
  },
};

/** The problem as it would be. Cost O(jobs + people). */
export function applyPlanChange(problem: PlanProblem, change: PlanChange): PlanProblem {
  return (APPLY[change.kind] as Apply<PlanChange['kind']>)(problem, change as never);
}

/** Her own hours, on the days on which the lane works too. */
function onDaysOf({ lanes }: PlanProblem, lane: string, worker: PlanWorker): PlanWorker {
  const days = lanes.find(({ id }) => id === lane)?.minutesByDay ?? [];
  return { ...worker, minutesByDay: worker.minutesByDay.map((own, day) => ((days[day] ?? own) > 0 ? own : 0)) };
}

/** Whoever of a lane is free takes its next job, whatever it was given to before; what has begun stays. */
function share(problem: PlanProblem, lanes: readonly string[]): PlanProblem {
  return { ...problem, jobs: problem.jobs.map((job) => (lanes.includes(job.lane) && !job.isBegun ? { ...job, worker: null } : job)) };
}
