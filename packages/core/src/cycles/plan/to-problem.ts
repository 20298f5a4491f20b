import type { TurnStatus } from '../../outcomes.ts';
import { pushTo } from '../../push-to.ts';
import { addDays } from '../../time/calendar.ts';
import type { PlanJob, PlanProblem } from './problem.ts';
import { countDaysBetween } from '../../time/work-days.ts';
import { DAY_MINUTES } from '../../time/working-time.ts';

/** What of a cycle its plan is made of. */
export interface CycleToPlan {
  readonly firstDay: string;
  readonly startsAt: number;
  readonly endsAt: number;
  readonly teams: readonly { readonly id: string; readonly minutesByDay: readonly number[]; readonly startsAt: number }[];
  readonly people: readonly {
    readonly id: string;
    readonly teams: readonly string[];
    readonly minutesByDay: readonly number[];
    readonly startsAt: number;
  }[];
  /** Runners: turns given to a pool are a lane of their own, done by whichever of its sessions is free. */
  readonly pools: readonly {
    readonly id: string;
    readonly sessions: number;
    readonly minutesByDay: readonly number[];
    readonly startsAt: number;
  }[];
  readonly runs: readonly { readonly id: string; readonly priority: 'high' | 'medium' | 'low' }[];
  readonly turns: readonly TurnToPlan[];
}

interface TurnToPlan {
  readonly id: string;
  readonly run: string;
  readonly index: number;
  readonly team: string;
  readonly person: string | null;
  readonly minutes: number;
  readonly status: TurnStatus;
  readonly dueOn: string | null;
  readonly doneOn: string | null;
  readonly doneBy: string | null;
  readonly after: readonly number[];
  readonly waitDays: number;
  readonly samePersonAs: number | null;
  readonly otherPersonThan: readonly number[];
}

type FindMate = (turn: TurnToPlan, index: number) => TurnToPlan | undefined;

const RANKS = { low: 0, medium: 1, high: 2 } as const;

/** Whether a turn is through: it has passed, or was left out. What failed or is blocked is to be done again. */
export function isThrough(status: TurnStatus): boolean {
  return status === 'passed' || status === 'skipped';
}

/** The work that is left, as a problem to plan. Cost O(turns). */
export function toPlanProblem(cycle: CycleToPlan): PlanProblem {
  const at = new Map(cycle.turns.map((turn) => [`${turn.run} ${turn.index}`, turn]));
  const mate = (turn: TurnToPlan, index: number) => at.get(`${turn.run} ${index}`);
  const barredBy = listBarredByDone(cycle.turns);
  const pools = new Set(cycle.pools.map(({ id }) => id));
  const isPools = ({ person }: TurnToPlan) => person !== null && pools.has(person);
  const ofPools = new Set(cycle.turns.filter(isPools).map(({ id }) => id));
  return {
    jobs: cycle.turns
      .filter(({ status }) => !isThrough(status))
      .map((turn) => {
        const job = toJob(turn, cycle, mate);
        // A pool is nobody whom a rule about the same or another person could mean.
        if (isPools(turn)) return { ...job, lane: turn.person!, worker: null, sameAs: null, otherThan: [] };
        return { ...withoutPools(job, (id) => ofPools.has(id)), ...toTies(turn, mate, barredBy.get(`${turn.run} ${turn.index}`) ?? []) };
      }),
    workers: [
      ...cycle.people.map(({ id, teams, minutesByDay, startsAt }) => ({ id, lanes: teams, minutesByDay, startsAt })),
      ...cycle.pools.flatMap(({ id, sessions, minutesByDay, startsAt }) =>
        Array.from({ length: sessions }, (_, index) => ({ id: nameSession(id, index), lanes: [id], minutesByDay, startsAt })),
      ),
    ],
    lanes: cycle.teams.map(({ id, minutesByDay, startsAt }) => ({ id, minutesByDay, startsAt })),
    runs: cycle.runs.map(({ id, priority }) => ({ id, rank: RANKS[priority] })),
    startsAt: cycle.startsAt,
    endsAt: cycle.endsAt,
  };
}

const nameSession = (pool: string, index: number) => `${pool} session ${index + 1}`;

/** Who has a planned turn: a person, or the pool of the session that does it. */
export const readWorker = (worker: string): string => worker.split(' session ')[0]!;

/** What is done by runners binds no person. */
function withoutPools(job: PlanJob, isPools: (id: string) => boolean): PlanJob {
  return {
    ...job,
    sameAs: job.sameAs !== null && isPools(job.sameAs) ? null : job.sameAs,
    otherThan: job.otherThan.filter((id) => !isPools(id)),
  };
}

/** Who did what another is to do now, by the leg that says nothing of it itself. */
function listBarredByDone(turns: readonly TurnToPlan[]): Map<string, string[]> {
  const barred = new Map<string, string[]>();
  for (const turn of turns) {
    const by = getDoer(turn);
    if (by !== null) for (const index of turn.otherPersonThan) pushTo(barred, `${turn.run} ${index}`, by);
  }
  return barred;
}

const getDoer = ({ status, doneBy, person }: TurnToPlan) => (isThrough(status) ? (doneBy ?? person) : null);

/** What binds a job to those who did the legs that are through. */
function toTies(turn: TurnToPlan, mate: FindMate, barred: readonly string[]): Pick<PlanJob, 'notBy' | 'onlyBy'> {
  const doerOf = (index: number) => {
    const other = mate(turn, index);
    return (other && getDoer(other)) ?? undefined;
  };
  const onlyBy = turn.samePersonAs === null ? undefined : doerOf(turn.samePersonAs);
  const notBy = [...barred, ...turn.otherPersonThan.flatMap((index) => doerOf(index) ?? [])];
  return { ...(notBy.length > 0 ? { notBy } : {}), ...(onlyBy === undefined ? {} : { onlyBy }) };
}

function toJob(turn: TurnToPlan, { firstDay }: CycleToPlan, mate: FindMate): PlanJob {
  const idAt = (index: number) => mate(turn, index)?.id;
  const waited = turn.waitDays > 0 ? turn.after.flatMap((index) => mate(turn, index)?.doneOn ?? []) : [];
  const last = waited.sort().at(-1);
  return {
    ...{ id: turn.id, run: turn.run, lane: turn.team, minutes: turn.minutes, worker: turn.person, waitDays: turn.waitDays },
    after: turn.after.flatMap((index) => idAt(index) ?? []),
    notBefore: last === undefined ? 0 : Math.max(0, countDaysBetween(firstDay, addDays(last, turn.waitDays)) * DAY_MINUTES),
    sameAs: (turn.samePersonAs === null ? undefined : idAt(turn.samePersonAs)) ?? null,
    otherThan: turn.otherPersonThan.flatMap((index) => idAt(index) ?? []),
    isBegun: turn.status === 'under way',
    ...(turn.dueOn === null ? {} : { dueAt: (countDaysBetween(firstDay, turn.dueOn) + 1) * DAY_MINUTES }),
  };
}
