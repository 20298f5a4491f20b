/** What would help: each answer is a change whose effect was computed by planning again. */
import type { PlanChange } from './plan-changes.ts';
import { applyPlanChange } from './plan-changes.ts';
import type { CyclePlan } from './plan-cycle.ts';
import { planCycle } from './plan-cycle.ts';
import type { PlanProblem } from './problem.ts';

export interface PlanHelp {
  readonly changes: readonly PlanChange[];
  readonly finish: number;
  /** How many jobs nobody can do then. */
  readonly stuck: number;
  /** Whether the end that is wished for is met, with no more stuck than before. */
  readonly isEnough: boolean;
}

const MOST_PEOPLE = 6;
const SHOWN = 6;
const HOUR = 60;

/**
 * The helps that end sooner than the plan or let more be done, and never leave more undone; those that are enough first, then by their finish. Cost: about 4 plans for each lane and
 * 2 log₂ (runs) for what may be left out. Yields after each plan, so that it can be stopped and shown.
 */
export function* findWhatHelps(problem: PlanProblem, plan: CyclePlan): Generator<number, PlanHelp[]> {
  const base = planCycle(problem, { isQuick: true });
  const helps: PlanHelp[] = [];
  let tried = 0;
  const tryChanges = (changes: readonly PlanChange[]): PlanHelp => {
    tried += 1;
    return toHelp(problem, plan, changes, planCycle(changes.reduce(applyPlanChange, problem), { isQuick: true }));
  };
  const keep = (help: PlanHelp) => {
    if (isHelp(help, base)) helps.push(help);
  };
  for (const { id: lane } of problem.lanes) {
    const shared = tryChanges([{ kind: 'share', lane }]);
    keep(shared);
    yield tried;
    const oneMore = tryChanges([{ kind: 'more people', lane, count: 1 }]);
    if (oneMore.finish < shared.finish) keep(oneMore);
    yield tried;
    keep(tryChanges([{ kind: 'more hours', lane, minutes: HOUR }]));
    yield tried;
  }
  for (const change of listMoves(problem)) {
    keep(tryChanges([change]));
    yield tried;
  }
  if (plan.finish > problem.endsAt) {
    const people = yield* findPeople(problem, tryChanges, () => tried);
    if (people) keep(people);
    const left = yield* findRunsToLeaveOut(problem, tryChanges, () => tried);
    if (left) keep(left);
  }
  // What is shown is planned again in full, as it will be once it is used.
  const shown: PlanHelp[] = [];
  for (const { changes } of sortHelps(helps).slice(0, 2 * SHOWN)) {
    tried += 1;
    const help = toHelp(problem, plan, changes, planCycle(changes.reduce(applyPlanChange, problem)));
    if (isHelp(help, plan)) shown.push(help);
    yield tried;
  }
  return sortHelps(shown).slice(0, SHOWN);
}

function toHelp(problem: PlanProblem, plan: CyclePlan, changes: readonly PlanChange[], { finish, stuck }: CyclePlan): PlanHelp {
  const isEnough = finish <= problem.endsAt && stuck.length <= plan.stuck.length;
  return { changes, finish, stuck: stuck.length, isEnough };
}

const isHelp = ({ finish, stuck }: PlanHelp, plan: CyclePlan) =>
  stuck <= plan.stuck.length && (finish < plan.finish || stuck < plan.stuck.length);

/** Each once, the best first. */
function sortHelps(helps: readonly PlanHelp[]): PlanHelp[] {
  return [...new Map(helps.map((help) => [JSON.stringify(help.changes), help])).values()].sort(
    (a, b) => Number(b.isEnough) - Number(a.isEnough) || countCost(a.changes) - countCost(b.changes) || a.finish - b.finish,
  );
}

/** Sharing costs nothing, an hour is less than a person, and leaving out is the last resort. */
const COSTS: Readonly<Record<PlanChange['kind'], (change: PlanChange) => number>> = {
  share: () => 0,
  'move person': () => 1,
  'join lane': () => 1,
  'more hours': () => 2,
  'more people': (change) => 3 * (change.kind === 'more people' ? change.count : 1),
  'leave out': () => 9,
};
const countCost = (changes: readonly PlanChange[]) => changes.reduce((sum, change) => sum + COSTS[change.kind](change), 0);

type TryChanges = (changes: readonly PlanChange[]) => PlanHelp;

/** From the lane with the least work for its people to that with the most: one person of each other lane that keeps somebody. */
function listMoves(problem: PlanProblem): PlanChange[] {
  const load = (lane: string) => {
    const inLane = problem.workers.filter((worker) => worker.lanes.includes(lane));
    const time = inLane.reduce((sum, { minutesByDay }) => sum + minutesByDay.reduce((a, b) => a + b, 0), 0);
    return problem.jobs.reduce((sum, job) => sum + (job.lane === lane ? job.minutes : 0), 0) / Math.max(1, time);
  };
  const lanes = problem.lanes.map(({ id }) => ({ id, load: load(id) })).sort((a, b) => b.load - a.load);
  const [busiest, ...others] = lanes;
  if (!busiest) return [];
  return others
    .reverse()
    .flatMap(({ id }) => {
      const inLane = problem.workers.filter((worker) => worker.lanes.includes(id) && !worker.lanes.includes(busiest.id));
      const person = inLane.length > 1 ? inLane.at(-1) : undefined;
      return person ? [{ kind: 'move person' as const, person: person.id, lane: busiest.id }] : [];
    })
    .slice(0, 3);
}

/** People one by one, each to the lane where she helps most, until it fits. */
function* findPeople(problem: PlanProblem, tryChanges: TryChanges, count: () => number): Generator<number, PlanHelp | undefined> {
  const counts = new Map<string, number>();
  let best: PlanHelp | undefined;
  for (let people = 0; people < MOST_PEOPLE; people += 1) {
    let step: { lane: string; help: PlanHelp } | undefined;
    for (const { id: lane } of problem.lanes) {
      const wanted = new Map(counts).set(lane, (counts.get(lane) ?? 0) + 1);
      const help = tryChanges([...wanted].map(([id, more]) => ({ kind: 'more people' as const, lane: id, count: more })));
      if (!step || help.finish < step.help.finish) step = { lane, help };
      yield count();
    }
    if (!step || (best && step.help.finish >= best.finish)) return best;
    counts.set(step.lane, (counts.get(step.lane) ?? 0) + 1);
    best = step.help;
    if (best.isEnough) return best;
  }
  return best;
}

/** The fewest runs of the list, lowest rank and most work first, without which it fits: halving, since fewer runs seldom end later. */
function* findRunsToLeaveOut(problem: PlanProblem, tryChanges: TryChanges, count: () => number): Generator<number, PlanHelp | undefined> {
  const work = new Map<string, number>();
  for (const { run, minutes } of problem.jobs) work.set(run, (work.get(run) ?? 0) + minutes);
  const begun = new Set(problem.jobs.flatMap(({ run, isBegun }) => (isBegun ? [run] : [])));
  const least = Math.min(...problem.runs.map(({ rank }) => rank));
  const runs = problem.runs
    .filter(({ id, rank }) => work.has(id) && !begun.has(id) && rank === least)
    .sort((a, b) => (work.get(b.id) ?? 0) - (work.get(a.id) ?? 0))
    .map(({ id }) => id);
  let [low, high] = [0, runs.length];
  let found: PlanHelp | undefined;
  while (low < high) {
    const middle = (low + high) >> 1;
    const help = tryChanges([{ kind: 'leave out', runs: runs.slice(0, middle + 1) }]);
    yield count();
    if (help.isEnough) {
      found = help;
      high = middle;
    } else low = middle + 1;
  }
  return found ?? (runs.length > 0 ? tryChanges([{ kind: 'leave out', runs }]) : undefined);
}
