import type { CourseFacts } from './course.ts';
import { weighTurn } from './course.ts';
import type { CourseUnit } from './course.ts';
import { findReadyDay, listBefore } from './measure-paces.ts';

/**
 * The work that is left, by numbers: a place for each turn that is not through and can be done at all. Places are by lane, in each by due day; a lane begins
 * at a multiple of 32, so that a word of bits is of one lane. Places between are empty.
 */
export interface Rest {
  readonly facts: CourseFacts;
  /** How many places there are, and with which word of 32 each lane begins; behind the last, where all end. */
  readonly size: number;
  readonly words: Int32Array;
  readonly lane: Int32Array;
  /** The group, or −1: not of the branch that is looked at. */
  readonly group: Int32Array;
  readonly minutes: Float64Array;
  readonly weight: Float64Array;
  readonly waitDays: Int32Array;
  /** The day on which it is due; long past where none is said. */
  readonly dueOn: Int32Array;
  /** How many that are left must be through before. */
  readonly before: Int32Array;
  /** The places behind each: those of `next` from `nextFrom` of it to that of the one after. */
  readonly next: Int32Array;
  readonly nextFrom: Int32Array;
  /** What can be begun, or was stopped, at the start: the day from which on; of what was stopped the days since. */
  readonly first: readonly { readonly turn: number; readonly day: number; readonly stoppedFor: number | null }[];
  /** Turns that have no end: nobody is in their lane, or they wait for such. */
  readonly stuck: readonly number[];
}

/** Cost O(turns log turns + waits + attempts + lanes × days). */
export function gatherRest(facts: CourseFacts, unit: CourseUnit): Rest {
  const { turns, tries, today } = facts;
  const before = listBefore(turns);
  const stuck = findStuck(facts, before);
  const { left, words, size } = layOutPlaces(facts, stuck);
  const placeOf = new Map(left.map(({ at, place }) => [at, place]));
  const lastTry = new Map(tries.map(({ turn, day }) => [turn, day]));
  const throughOn = turns.map(({ isThrough, leftOutOn }, at) => (isThrough ? (leftOutOn ?? lastTry.get(at) ?? today) : Infinity));
  const ints = (read: (turn: CourseFacts['turns'][number]) => number) => fill(new Int32Array(size), left, (at) => read(turns[at]!));
  const open = (at: number) => before[at]!.flatMap((from) => placeOf.get(from) ?? []);
  return {
    ...{ facts, size, words, stuck: [...stuck] },
    ...linkPlaces(
      size,
      left.map(({ at, place }) => ({ place, before: open(at) })),
    ),
    lane: ints(({ lane }) => lane),
    group: ints(({ group, isCounted }) => (isCounted ? group : -1)),
    minutes: fill(new Float64Array(size), left, (at) => Math.max(1, turns[at]!.minutes)),
    weight: fill(new Float64Array(size), left, (at) => weighTurn(turns[at]!, unit)),
    waitDays: ints(({ waitDays }) => waitDays),
    dueOn: ints(({ dueOn }) => dueOn ?? LONG_PAST),
    before: fill(new Int32Array(size), left, (at) => open(at).length),
    first: left.flatMap(({ at, place: turn }) => {
      if (open(at).length > 0) return [];
      const { isStopped, waitDays } = turns[at]!;
      const ready = findReadyDay(waitDays, before[at]!, throughOn);
      return [{ turn, day: Math.max(today, ready), stoppedFor: isStopped ? today - (lastTry.get(at) ?? today) : null }];
    }),
  };
}

const LONG_PAST = -1_000_000;

interface Placed {
  /** Of the facts' turns. */
  readonly at: number;
  readonly place: number;
}

function layOutPlaces({ turns, lanes }: CourseFacts, stuck: ReadonlySet<number>) {
  const all = turns.flatMap(({ isThrough }, at) => (isThrough || stuck.has(at) ? [] : [at]));
  const due = (at: number) => turns[at]!.dueOn ?? Number.MAX_SAFE_INTEGER;
  all.sort((a, b) => turns[a]!.lane - turns[b]!.lane || due(a) - due(b) || a - b);
  const words = new Int32Array(lanes.length + 1);
  const left: Placed[] = [];
  let next = 0;
  lanes.forEach((_, lane) => {
    words[lane] = next;
    const from = left.length;
    while (left.length < all.length && turns[all[left.length]!]!.lane === lane)
      left.push({ at: all[left.length]!, place: next * 32 + left.length - from });
    next += Math.ceil((left.length - from) / 32);
  });
  words[lanes.length] = next;
  return { left, words, size: next * 32 };
}

function fill<List extends Int32Array | Float64Array>(list: List, left: readonly Placed[], read: (at: number) => number): List {
  for (const { at, place } of left) list[place] = read(at);
  return list;
}

function linkPlaces(size: number, links: readonly { readonly place: number; readonly before: readonly number[] }[]) {
  const nextFrom = new Int32Array(size + 1);
  for (const { before } of links) for (const from of before) nextFrom[from + 1]! += 1;
  for (let place = 0; place < size; place += 1) nextFrom[place + 1]! += nextFrom[place]!;
  const next = new Int32Array(nextFrom[size]!);
  const free = nextFrom.slice();
  for (const { place, before } of links) for (const from of before) next[free[from]!++] = place;
  return { next, nextFrom };
}

function findStuck({ turns, lanes, today, todayShare }: CourseFacts, before: readonly (readonly number[])[]): Set<number> {
  const isEmpty = lanes.map(
    ({ minutesByDay }) => !minutesByDay.some((minutes, day) => minutes > 0 && (day > today || (day === today && todayShare > 0))),
  );
  const next: number[][] = turns.map(() => []);
  before.forEach((from, at) => from.forEach((one) => next[one]!.push(at)));
  const stuck = new Set(turns.flatMap(({ isThrough, lane }, at) => (!isThrough && isEmpty[lane] ? [at] : [])));
  for (const at of stuck) for (const behind of next[at]!) if (!turns[behind]!.isThrough) stuck.add(behind);
  return stuck;
}
