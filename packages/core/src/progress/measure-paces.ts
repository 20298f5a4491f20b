import type { Sample } from './censored-samples.ts';
import { sortSamples } from './censored-samples.ts';
import type { CourseFacts } from './course.ts';

/** What a cycle's own days say of a lane. */
interface Pace {
  /** Planned minutes of work that were tried, for each minute that its people had, by day; sorted. A day on which it ran out of work says *at least*. */
  readonly samples: readonly Sample[];
  /** Attempts that went wrong, and that did not. */
  readonly wrong: number;
  readonly right: number;
}

export interface Paces {
  readonly lanes: readonly Pace[];
  /** Days from an attempt that went wrong to the next at its turn; where there is none yet, at least until today. Sorted. */
  readonly repairs: readonly Sample[];
  /**
   * How many days before it was due a turn was first tried, of those that were due before today; none: on its day or later. One that was tried on the day on which it came
   * to hand might have been tried earlier: *at least*. Sorted; empty where nothing was due.
   */
  readonly leads: readonly Sample[];
}

/**
 * Today is not over and says nothing of its pace; a day without people says nothing either, and what was done then goes to the next on which there are some.
 * A lane has work at hand while a turn of it is due, waits for nothing and was not tried: who has done all that was due is not slow. Cost O(turns + waits + attempts + lanes × days).
 */
export function measurePaces(facts: CourseFacts): Paces {
  const moments = findMoments(facts);
  const atHand = countAtHand(facts, moments);
  const done = facts.lanes.map(() => new Float64Array(facts.today + 1));
  const tally = facts.lanes.map(() => ({ wrong: 0, right: 0 }));
  for (const { turn, day, lane, isThrough } of facts.tries) {
    done[lane]![clampDay(day, facts)]! += facts.turns[turn]!.minutes;
    tally[lane]![isThrough ? 'right' : 'wrong'] += 1;
  }
  return {
    lanes: facts.lanes.map((lane, at) => ({ ...tally[at]!, samples: sampleDays(facts, lane, done[at]!, atHand[at]!) })),
    repairs: sampleRepairs(facts),
    leads: sampleLeads(facts, moments),
  };
}

const clampDay = (day: number, { today }: CourseFacts) => Math.min(Math.max(day, 0), today);

function sampleDays(
  { today, firstShare }: CourseFacts,
  { minutesByDay }: CourseFacts['lanes'][number],
  done: Float64Array,
  atHand: Int32Array,
): Sample[] {
  const samples: Sample[] = [];
  let sum = 0;
  for (let day = 0; day < today; day += 1) {
    sum += done[day]!;
    const time = (minutesByDay[day] ?? 0) * (day === 0 ? firstShare : 1);
    if (time <= 0) continue;
    if (sum > 0 || atHand[day]! > 0) samples.push({ value: sum / time, isAtLeast: atHand[day] === 0 });
    sum = 0;
  }
  return sortSamples(samples);
}

/** By turn, the days on which it came to hand, was first tried, and was through; Infinity: not yet. */
interface Moments {
  readonly readyOn: Float64Array;
  readonly triedOn: Float64Array;
  readonly throughOn: Float64Array;
}

function findMoments(facts: CourseFacts): Moments {
  const throughOn = new Float64Array(facts.turns.length).fill(Infinity);
  const triedOn = new Float64Array(facts.turns.length).fill(Infinity);
  facts.turns.forEach(({ isThrough, leftOutOn }, at) => {
    if (isThrough) throughOn[at] = leftOutOn ?? facts.today;
  });
  for (const { turn, day, isThrough } of facts.tries) {
    triedOn[turn] = Math.min(triedOn[turn]!, day);
    if (isThrough && facts.turns[turn]!.isThrough) throughOn[turn] = day;
  }
  const before = listBefore(facts.turns);
  const readyOn = Float64Array.from(facts.turns, ({ waitDays }, at) => Math.max(0, findReadyDay(waitDays, before[at]!, throughOn)));
  return { readyOn, triedOn, throughOn };
}

/** How many turns of each lane that were due were at hand in the evening of each day. */
function countAtHand(facts: CourseFacts, { readyOn, triedOn, throughOn }: Moments): Int32Array[] {
  const steps = facts.lanes.map(() => new Int32Array(facts.today + 2));
  facts.turns.forEach(({ lane, dueOn }, at) => {
    const from = Math.max(readyOn[at]!, dueOn ?? 0);
    const until = Math.min(triedOn[at]!, throughOn[at]!, facts.today + 1);
    if (from >= until) return;
    steps[lane]![from]! += 1;
    steps[lane]![until]! -= 1;
  });
  for (const own of steps) for (let day = 1; day < own.length; day += 1) own[day]! += own[day - 1]!;
  return steps;
}

/** For each turn the places of those that must be through before it. Cost O(turns + waits). */
export function listBefore(turns: CourseFacts['turns']): number[][] {
  const places = new Map<number, Map<number, number>>();
  turns.forEach(({ run, index }, at) => {
    const own = places.get(run);
    if (own) own.set(index, at);
    else places.set(run, new Map([[index, at]]));
  });
  return turns.map(({ run, after }) => after.flatMap((index) => places.get(run)?.get(index) ?? []));
}

/** The day from which on it can be done; Infinity while something before it is not through. */
export const findReadyDay = (waitDays: number, before: readonly number[], throughOn: ArrayLike<number>): number =>
  before.length === 0 ? 0 : before.reduce((last, at) => Math.max(last, throughOn[at]!), 0) + waitDays;

function sampleLeads({ turns, today }: CourseFacts, { readyOn, triedOn }: Moments): Sample[] {
  const samples = turns.flatMap(({ dueOn }, at): Sample[] => {
    if (dueOn === null || dueOn >= today || readyOn[at]! === Infinity) return [];
    return [{ value: Math.max(0, dueOn - triedOn[at]!), isAtLeast: triedOn[at]! <= readyOn[at]! }];
  });
  return sortSamples(samples);
}

function sampleRepairs({ tries, turns, today }: CourseFacts): Sample[] {
  const wrongOn = new Map<number, number>();
  const samples: Sample[] = [];
  for (const { turn, day, isThrough } of tries) {
    const since = wrongOn.get(turn);
    if (since !== undefined) samples.push({ value: day - since, isAtLeast: false });
    if (isThrough) wrongOn.delete(turn);
    else wrongOn.set(turn, day);
  }
  for (const [turn, since] of wrongOn) if (turns[turn]!.isStopped) samples.push({ value: today - since, isAtLeast: true });
  return sortSamples(samples);
}
