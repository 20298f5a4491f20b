import type { PathDraws } from './draw-path.ts';
import type { Rest } from './gather-rest.ts';

export interface PathEnd {
  /** By group, the day on which its last turn was through; Infinity: not within the days that are looked at; −1: it has none left. */
  readonly ends: Float64Array;
  /** The group of the last turn of all; −1: it did not end. */
  readonly last: number;
}

/**
 * Paths through the rest, one after the other; what they need is made once. A turn comes to hand when it waits for nothing and its day is near; a lane takes the first that is at hand while it has time; what it does not finish it goes on
 * with on its next day. `note` is told each turn that is through: the day, its group, and what it counts for.
 * Cost of a path O(attempts + lanes × days).
 */
export function createPaths(rest: Rest, draws: PathDraws, note: (day: number, group: number, weight: number) => void): () => PathEnd {
  const { facts, group, minutes, weight, waitDays, dueOn, next, nextFrom } = rest;
  const { today, todayShare, lanes } = facts;
  const days = lanes.reduce((most, { minutesByDay }) => Math.max(most, minutesByDay.length), 0);
  const minutesOn = lanes.map(({ minutesByDay }) =>
    Float64Array.from({ length: days }, (_, day) => (minutesByDay[day] ?? 0) * (day === today ? todayShare : 1)),
  );
  const before = new Int32Array(rest.size);
  const minutesLeft = new Float64Array(rest.size);
  const atHand = createAtHand(rest);
  const later = createLater(rest.size, days);
  const time = new Float64Array(lanes.length);
  const leftOf = new Int32Array(facts.groups);
  group.forEach((own, at) => {
    if (own >= 0 && minutes[at]! > 0) leftOf[own]! += 1;
  });
  const toDo = new Int32Array(facts.groups);
  const ends = new Float64Array(facts.groups);
  let [leftToDo, last] = [0, -1];

  const put = (turn: number, day: number, now: number) => (day > now ? later.put(turn, day) : atHand.put(turn));
  /** What waits for nothing from a day on is taken up when it is due, or some days before. */
  const putReady = (turn: number, day: number, now: number) =>
    put(turn, dueOn[turn]! > day ? Math.max(day, dueOn[turn]! - draws.lead()) : day, now);

  function begin(): void {
    draws.begin();
    before.set(rest.before);
    minutesLeft.set(minutes);
    toDo.set(leftOf);
    atHand.clear();
    later.clear();
    leftToDo = 0;
    last = -1;
    leftOf.forEach((own, at) => {
      leftToDo += own;
      ends[at] = own > 0 ? Infinity : -1;
    });
    for (const { turn, day, stoppedFor } of rest.first)
      if (stoppedFor === null) putReady(turn, day, today);
      else put(turn, Math.max(day, today + Math.max(1, draws.repair() - stoppedFor)), today);
  }

  function pass(turn: number, day: number): void {
    for (let at = nextFrom[turn]!; at < nextFrom[turn + 1]!; at += 1) {
      const behind = next[at]!;
      before[behind]! -= 1;
      if (before[behind] === 0) putReady(behind, day + waitDays[behind]!, day);
    }
    const own = group[turn]!;
    if (own < 0) return;
    note(day, own, weight[turn]!);
    leftToDo -= 1;
    toDo[own]! -= 1;
    if (toDo[own] === 0) ends[own] = day;
    if (leftToDo === 0) last = own;
  }

  /** Whether anything was done. */
  function workLane(lane: number, day: number): boolean {
    let left = time[lane]!;
    let hasWorked = false;
    while (left > 0) {
      const turn = atHand.take(lane);
      if (turn < 0) break;
      hasWorked = true;
      if (left < minutesLeft[turn]!) {
        minutesLeft[turn]! -= left;
        left = 0;
        atHand.put(turn);
        break;
      }
      left -= minutesLeft[turn]!;
      if (draws.goesWrong(lane)) {
        minutesLeft[turn] = minutes[turn]!;
        put(turn, day + Math.max(1, draws.repair()), day);
      } else pass(turn, day);
    }
    time[lane] = left;
    return hasWorked;
  }

  return function walkPath() {
    begin();
    for (let day = today; day < days && leftToDo > 0; day += 1) {
      later.release(day, atHand.put);
      for (let lane = 0; lane < lanes.length; lane += 1) {
        const own = minutesOn[lane]![day]!;
        time[lane] = own > 0 ? own * draws.pace(lane) : 0;
      }
      for (let isMoving = true; isMoving;) {
        isMoving = false;
        for (let lane = 0; lane < lanes.length; lane += 1) if (workLane(lane, day)) isMoving = true;
      }
    }
    return { ends, last };
  };
}

/** The turns of each lane that wait for nothing, the first by its place taken first: one bit for each. */
function createAtHand({ size, words, lane }: Rest) {
  const bits = new Int32Array(size >> 5);
  const lowest = new Int32Array(words.length - 1);
  return {
    clear: () => {
      bits.fill(0);
      for (let own = 0; own < lowest.length; own += 1) lowest[own] = words[own + 1]!;
    },
    put: (turn: number) => {
      const word = turn >> 5;
      bits[word]! |= 1 << (turn & 31);
      const own = lane[turn]!;
      if (word < lowest[own]!) lowest[own] = word;
    },
    /** The first, which is at hand no more; −1: there is none. */
    take: (own: number): number => {
      const end = words[own + 1]!;
      let at = lowest[own]!;
      while (at < end && bits[at] === 0) at += 1;
      lowest[own] = at;
      if (at === end) return -1;
      const word = bits[at]!;
      bits[at] = word & (word - 1);
      return at * 32 + 31 - Math.clz32(word & -word);
    },
  };
}

/** Turns that wait for a day: a list for each day, and one for all behind the last. */
function createLater(size: number, days: number) {
  const firstOn = new Int32Array(days + 1);
  const nextOn = new Int32Array(size);
  return {
    clear: () => void firstOn.fill(-1),
    put: (turn: number, day: number) => {
      const at = Math.min(day, days);
      nextOn[turn] = firstOn[at]!;
      firstOn[at] = turn;
    },
    release: (day: number, give: (turn: number) => void) => {
      for (let turn = firstOn[day]!; turn >= 0;) {
        const following = nextOn[turn]!;
        give(turn);
        turn = following;
      }
    },
  };
}
