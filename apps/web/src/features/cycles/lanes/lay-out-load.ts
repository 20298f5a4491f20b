import type { CyclePlanView } from '@kindred-baton/contracts/cycles/plan';
import { addDays } from '@kindred-baton/core/time/calendar';
import type { CyclePlan } from '@kindred-baton/core/cycles/plan/plan-cycle';
import { spreadOverDays } from '@kindred-baton/core/cycles/plan/spread-over-days';
import { isThrough, readWorker } from '@kindred-baton/core/cycles/plan/to-problem';
import { countDaysBetween } from '@kindred-baton/core/time/work-days';
import { createWorkingTime } from '@kindred-baton/core/time/working-time';

interface DayLoad {
  readonly done: number;
  readonly toDo: number;
  /** What can be worked; null: a day that is past. */
  readonly time: number | null;
}

export interface LoadRow {
  readonly key: string;
  readonly name: string;
  readonly days: readonly DayLoad[];
  readonly minutesLeft: number;
  /** What can be worked from now to the cycle's end. */
  readonly minutesOfTime: number;
}

export interface LaneLoad extends LoadRow {
  readonly hoursPerDay: number;
  readonly people: readonly LoadRow[];
  /** A pool of runners: how many sessions it has, and the scale of its own bars (it works day and night). */
  readonly pool?: { readonly sessions: number; readonly most: number };
}

export interface LoadChart {
  readonly days: readonly string[];
  readonly lanes: readonly LaneLoad[];
  /** The most that any lane has on a day, by which bars are scaled; the same for people. */
  readonly most: number;
  readonly mostOfPerson: number;
}

const LATE_DAYS = 12;
const HEADROOM = 1.06;

/** Minutes by lane, person and day: as turns are due (what is overdue counts today), or as a plan has them. Cost O(turns + lanes × days). */
export function layOutLoad(view: CyclePlanView, plan: CyclePlan | null): LoadChart {
  const from = view.startsOn < view.firstDay ? view.startsOn : view.firstDay;
  const work = plan ? spreadPlan(view, plan) : spreadDue(view);
  const done = view.turns.flatMap(({ status, doneOn, team, person, minutes }) =>
    isThrough(status) && doneOn !== null ? [{ day: doneOn, team, person, minutes }] : [],
  );
  const last = work.reduce((latest, { day }) => (day > latest ? day : latest), view.endsOn);
  const length = Math.min(countDaysBetween(from, last), countDaysBetween(from, view.endsOn) + LATE_DAYS) + 1;
  const all = Array.from({ length: Math.max(1, length) }, (_, index) => addDays(from, index));
  const timeOn = (minutesByDay: readonly number[], day: string) =>
    day < view.firstDay ? null : (minutesByDay[countDaysBetween(view.firstDay, day)] ?? 0);
  const isUsed = new Set([...work, ...done].map(({ day }) => day));
  const days = all.filter((day) => isUsed.has(day) || view.people.some(({ minutesByDay }) => (timeOn(minutesByDay, day) ?? 0) > 0));
  const laneOf = createLaneOf(view);
  const left = view.turns.filter(({ status }) => !isThrough(status)).map((turn) => ({ ...turn, day: '' }));
  const [toDo, through, toCome] = [work, done, left].map((pieces) => sumPieces(pieces, laneOf));
  const toRow = (key: string, name: string, own: string, times: readonly (readonly number[])[]): LoadRow => {
    const timeOf = (day: string) => (day < view.firstDay ? null : times.reduce((sum, minutes) => sum + (timeOn(minutes, day) ?? 0), 0));
    return {
      ...{ key, name },
      days: days.map((day) => ({ done: through?.get(own)?.get(day) ?? 0, toDo: toDo?.get(own)?.get(day) ?? 0, time: timeOf(day) })),
      minutesLeft: toCome?.get(own)?.get('') ?? 0,
      minutesOfTime: days.filter((day) => day <= view.endsOn).reduce((sum, day) => sum + (timeOf(day) ?? 0), 0),
    };
  };
  const used = new Set(view.turns.map(laneOf));
  const lanes = view.teams
    .filter((team) => used.has(team.id))
    .map((team): LaneLoad => {
      const people = view.people.filter(({ teams }) => teams.includes(team.id));
      return {
        ...toRow(
          team.id,
          team.name,
          team.id,
          people.map(({ minutesByDay }) => minutesByDay),
        ),
        hoursPerDay: team.hoursPerDay,
        people: people.map((person) => toRow(person.id, person.name, toPersonKey(team.id, person.id), [person.minutesByDay])),
      };
    });
  // A little above the most, so that the line of what can be worked is seen.
  const top = (rows: readonly LoadRow[]) =>
    HEADROOM * Math.max(1, ...rows.flatMap((row) => row.days.map(({ done: through, toDo, time }) => Math.max(through + toDo, time ?? 0))));
  const pools: LaneLoad[] = [];
  for (const pool of view.pools) {
    if (!used.has(pool.id)) continue;
    const times = Array.from({ length: pool.sessions }, () => pool.minutesByDay);
    const row = toRow(pool.id, pool.name, pool.id, times);
    const hoursPerDay = Math.max(0, ...pool.minutesByDay.slice(0, 7)) / 60;
    pools.push({ ...row, hoursPerDay, people: [], pool: { sessions: pool.sessions, most: top([row]) } });
  }
  return { days, lanes: [...lanes, ...pools], most: top(lanes), mostOfPerson: top(lanes.flatMap(({ people }) => people)) };
}

interface InLane {
  readonly team: string;
  readonly person: string | null;
}

/** In whose lane turns are: what is given to runners is in their pool’s. */
export function createLaneOf({ pools }: Pick<CyclePlanView, 'pools'>): (turn: InLane) => string {
  const isPool = new Set<string>(pools.map(({ id }) => id));
  return ({ team, person }) => (person !== null && isPool.has(person) ? person : team);
}

const toPersonKey = (lane: string, person: string) => `${lane} ${person}`;

/** Minutes by day, of each lane and of each person in it. Cost O(pieces). */
function sumPieces(pieces: readonly Piece[], laneOf: (turn: InLane) => string): Map<string, Map<string, number>> {
  const sums = new Map<string, Map<string, number>>();
  const add = (key: string, { day, minutes }: Piece) => {
    const byDay = sums.get(key) ?? new Map<string, number>();
    sums.set(key, byDay.set(day, (byDay.get(day) ?? 0) + minutes));
  };
  for (const piece of pieces) {
    const lane = laneOf(piece);
    add(lane, piece);
    if (piece.person !== null) add(toPersonKey(lane, piece.person), piece);
  }
  return sums;
}

interface Piece {
  readonly day: string;
  readonly team: string;
  readonly person: string | null;
  readonly minutes: number;
}

function spreadDue(view: CyclePlanView): Piece[] {
  return view.turns.flatMap(({ status, dueOn, team, person, minutes }) =>
    isThrough(status) || dueOn === null ? [] : [{ day: dueOn < view.firstDay ? view.firstDay : dueOn, team, person, minutes }],
  );
}

function spreadPlan(view: CyclePlanView, plan: CyclePlan): Piece[] {
  const timeOf = new Map(
    [...view.people, ...view.pools].map((own) => [own.id as string, createWorkingTime(own.minutesByDay, own.startsAt)]),
  );
  const teamOf = new Map(view.turns.map(({ id, team }) => [id as string, team]));
  return plan.jobs.flatMap(({ id, worker: doer, start, end }) => {
    const worker = doer === null ? null : readWorker(doer);
    const team = teamOf.get(id);
    const time = worker === null ? undefined : timeOf.get(worker);
    if (start === null || end === null || team === undefined || !time) return [];
    return spreadOverDays(time, start, end).map(({ day, minutes }) => ({
      day: addDays(view.firstDay, day),
      team,
      person: worker,
      minutes,
    }));
  });
}
