import { quantile, mean, variance } from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import { createRandom } from '../values/fresh.ts';
import type { Sample } from './censored-samples.ts';
import { createShares, sortSamples } from './censored-samples.ts';
import type { CourseFacts, CourseTry, CourseTurn } from './course.ts';
import { drawBeta } from './draw-beta.ts';
import { drawCurves } from './draw-curve.ts';
import { findRemedies } from './find-remedies.ts';
import { drawPaths, forecastCourse } from './forecast.ts';
import { measurePaces } from './measure-paces.ts';

const turn = (own: Partial<CourseTurn> = {}): CourseTurn => ({
  ...{ group: 0, lane: 0, run: 0, index: 0, after: [], waitDays: 0, minutes: 60, dueOn: null, leftOutOn: null, isSparable: false },
  ...{ isThrough: false, isWrong: false, isStopped: false, isCounted: true },
  ...own,
});
const through = (own: Partial<CourseTurn> = {}) => turn({ isThrough: true, ...own });
const facts = (own: Partial<CourseFacts> = {}): CourseFacts => ({
  ...{ today: 0, firstShare: 1, todayShare: 1, groups: 1, turns: [], tries: [] },
  lanes: [{ people: 2, minutesByDay: new Array<number>(40).fill(240) }],
  ...own,
});
const many = (count: number, make: (at: number) => CourseTurn) => Array.from({ length: count }, (_, at) => make(at));

function weighEqually(sorted: readonly Sample[]): Float64Array {
  const shares = createShares(sorted);
  shares.weigh(() => 1);
  return shares.sums;
}

describe('shares of what was observed', () => {
  it('are the product limit: remission times of 21 patients (E. J. Freireich and others 1963, as in D. R. Cox and D. Oakes 1984; from memory)', () => {
    const known = [6, 6, 6, 7, 10, 13, 16, 22, 23];
    const atLeast = [6, 9, 10, 11, 17, 19, 20, 25, 32, 32, 34, 35];
    const sorted = sortSamples([
      ...known.map((value) => ({ value, isAtLeast: false })),
      ...atLeast.map((value) => ({ value, isAtLeast: true })),
    ]);
    const shares = weighEqually(sorted);
    const survival = (value: number) => 1 - shares[sorted.findLastIndex((sample) => sample.value <= value)]!;
    expect([6, 7, 10, 13, 16, 22, 23].map((value) => Number(survival(value).toFixed(3)))).toEqual([
      0.857, 0.807, 0.753, 0.69, 0.627, 0.538, 0.448,
    ]);
  });

  it('where all are known are equal, and the largest takes what is left', () => {
    const known = [3, 1, 2, 4].map((value) => ({ value, isAtLeast: false }));
    expect([...weighEqually(sortSamples(known))]).toEqual([0.25, 0.5, 0.75, 1]);
    expect([...weighEqually([{ value: 1, isAtLeast: true }])]).toEqual([1]);
    expect([...weighEqually([])]).toEqual([]);
  });

  it.each([
    [3, 5],
    [0.5, 0.5],
    [0.3, 4],
    [20, 2],
  ])('drawn from the beta law of %d and %d have its mean and variance (seed 7)', (a, b) => {
    const random = createRandom(7);
    const drawn = Array.from({ length: 20_000 }, () => drawBeta(a, b, random));
    expect(mean(drawn)).toBeCloseTo(a / (a + b), 2);
    expect(variance(drawn)).toBeCloseTo((a * b) / ((a + b) ** 2 * (a + b + 1)), 2);
    expect(drawn.every((share) => share >= 0 && share <= 1)).toBe(true);
  });

  it('of Beta(3, 1) lie below x as often as x³ (seed 8)', () => {
    const random = createRandom(8);
    const drawn = Array.from({ length: 20_000 }, () => drawBeta(3, 1, random));
    for (const x of [0.3, 0.6, 0.9]) expect(drawn.filter((share) => share < x).length / drawn.length).toBeCloseTo(x ** 3, 1);
  });
});

/** One lane: on each of days 0 to 3 it did `done` turns of an hour, of 240 minutes that it has. */
function withHistory(done: number, left: number, own: Partial<CourseFacts> = {}): CourseFacts {
  const past = many(done * 4, (at) => through({ run: at }));
  const tries = past.map((_, at): CourseTry => ({ turn: at, day: Math.floor(at / done), lane: 0, isThrough: true }));
  return facts({ today: 4, turns: [...past, ...many(left, (at) => turn({ run: 1_000 + at }))], tries, ...own });
}

describe('the pace of a lane', () => {
  it('is what it tried of the time it had, on days that are over', () => {
    expect(measurePaces(withHistory(2, 3)).lanes[0]).toEqual({
      samples: new Array(4).fill({ value: 0.5, isAtLeast: false }),
      ...{ wrong: 0, right: 8 },
    });
  });

  it('is at least that on a day on which it ran out of work, and unknown where there was none', () => {
    const chain = [
      through({ run: 1, index: 0 }),
      through({ run: 1, index: 1, after: [0], lane: 1, group: 1 }),
      turn({ run: 1, index: 2, after: [1], lane: 1, group: 1 }),
    ];
    const tries = [
      { turn: 0, day: 2, lane: 0, isThrough: true },
      { turn: 1, day: 3, lane: 1, isThrough: true },
    ];
    const lanes = [1, 1].map(() => ({ people: 2, minutesByDay: new Array<number>(9).fill(120) }));
    const paces = measurePaces(facts({ today: 5, groups: 2, turns: chain, tries, lanes }));
    expect(paces.lanes[0]!.samples).toEqual([0, 0, 0.5].map((value) => ({ value, isAtLeast: value > 0 })));
    // The second lane had nothing on days 0 and 1; its first turn came on day 2, its second on day 3.
    expect(paces.lanes[1]!.samples).toEqual([0, 0, 0.5].map((value) => ({ value, isAtLeast: false })));
  });

  it('counts a day off with the next, and the first and today by their share', () => {
    const lanes = [{ people: 2, minutesByDay: [240, 0, 240, 240, 240] }];
    const own = withHistory(1, 1, { lanes, firstShare: 0.5 });
    expect(measurePaces(own).lanes[0]!.samples.map(({ value }) => value)).toEqual([0.25, 0.5, 0.5]);
  });

  it('of repairs counts days to the next attempt, and at least those since where there was none', () => {
    const tries = [
      { turn: 0, day: 0, lane: 0, isThrough: false },
      { turn: 1, day: 1, lane: 0, isThrough: false },
      { turn: 0, day: 3, lane: 0, isThrough: true },
    ];
    const turns = [through({ run: 0 }), turn({ run: 1, isWrong: true, isStopped: true })];
    const { repairs, lanes } = measurePaces(facts({ today: 5, turns, tries }));
    expect(repairs).toEqual([
      { value: 3, isAtLeast: false },
      { value: 4, isAtLeast: true },
    ]);
    expect([lanes[0]!.wrong, lanes[0]!.right]).toEqual([2, 1]);
  });
});

const PLANNED = { unit: 'turns', plannedDay: 6 } as const;

describe('a forecast', () => {
  it('where all days were alike and nothing went wrong ends on the day that the hand reckons', () => {
    // Two turns an hour each a day; seven are left: days 4, 5, 6, and the last on 7. Faults are drawn from 0 of 8, so few paths end later.
    const { all, spread } = forecastCourse(withHistory(2, 7), { ...PLANNED, seed: 3 });
    expect(all.ends!.median).toBe(7);
    expect(spread[0]!.day).toBe(7);
    expect(all.fan.slice(0, 3).map(({ middle }) => middle)).toEqual([10, 12, 14]);
    expect(all.ends!.inTime).toBe(0);
  });

  it('keeps what waits for others waiting, also over days', () => {
    const before = withHistory(2, 0);
    const chain = [
      turn({ run: 5, index: 0 }),
      turn({ run: 5, index: 1, after: [0], waitDays: 3, group: 1, lane: 1 }),
      turn({ run: 5, index: 2, after: [1], group: 1, lane: 1 }),
    ];
    const lanes = [before.lanes[0]!, before.lanes[0]!];
    const own = { ...before, groups: 2, lanes, turns: [...before.turns, ...chain] };
    const { groups, decides, paces } = forecastCourse(own, PLANNED);
    // The first on day 4, then three days; the second lane has no day of its own and keeps the plan's pace.
    expect(groups.map(({ ends }) => ends!.median)).toEqual([4, 7]);
    expect(decides[1]).toBeGreaterThan(0.99);
    expect(paces).toEqual([
      { from: 'days', days: 4 },
      { from: 'plan', days: 0 },
    ]);
  });

  it('takes each lane for the time that its people will have', () => {
    const away = withHistory(2, 4, { lanes: [{ people: 2, minutesByDay: [240, 240, 240, 240, 0, 0, 240, 240, 240, 240] }] });
    expect(forecastCourse(away, PLANNED).all.ends!.median).toBe(7);
    const more = withHistory(2, 4, { lanes: [{ people: 2, minutesByDay: [240, 240, 240, 240, 480, 480, 480, 480] }] });
    expect(forecastCourse(more, PLANNED).all.ends!.median).toBe(4);
    expect(forecastCourse(withHistory(2, 2, { todayShare: 0.5 }), PLANNED).all.ends!.median).toBe(5);
  });

  it('expects what goes wrong to come back, after as long as it took before', () => {
    const own = withHistory(2, 6);
    const tries = own.tries.flatMap((one): CourseTry[] =>
      one.turn % 2 === 0
        ? [
            { ...one, isThrough: false },
            { ...one, day: one.day + 1 },
          ]
        : [one],
    );
    const again = forecastCourse({ ...own, tries: tries.sort((a, b) => a.day - b.day) }, PLANNED);
    expect(again.all.ends!.median).toBeGreaterThan(forecastCourse(own, PLANNED).all.ends!.median!);
    // Each of the four came back on the next day.
    expect(again.repairs).toEqual({ done: 4, waiting: 0, median: 1, isGuess: false });
    expect(forecastCourse(own, PLANNED).repairs).toEqual({ done: 0, waiting: 0, median: null, isGuess: false });
    // One came back after a day, three have waited for three: half may take longer than that.
    const turns = own.turns.map((one, at) => (at < 3 ? { ...one, isThrough: false, isWrong: true, isStopped: true } : one));
    const waiting = own.tries.flatMap((one): CourseTry[] =>
      one.turn < 3
        ? [{ ...one, day: 1, isThrough: false }]
        : one.turn === 3
          ? [
              { ...one, isThrough: false },
              { ...one, day: one.day + 1 },
            ]
          : [one],
    );
    expect(forecastCourse({ ...own, turns, tries: waiting }, PLANNED).repairs).toEqual({ done: 1, waiting: 3, median: 3, isGuess: true });
  });

  it('says which lanes have too few days, and which turns have no end', () => {
    const young = forecastCourse(withHistory(2, 7, { today: 1 }), PLANNED);
    expect(young.paces).toEqual([{ from: 'plan', days: 1 }]);
    const lanes = [
      { people: 2, minutesByDay: new Array<number>(20).fill(240) },
      { people: 2, minutesByDay: new Array<number>(20).fill(0) },
    ];
    const turns = [turn(), turn({ index: 1, after: [0], lane: 1, group: 1 }), turn({ index: 2, after: [1] })];
    const held = forecastCourse(facts({ groups: 2, lanes, turns }), PLANNED);
    expect([held.all.stuck, ...held.groups.map(({ stuck }) => stuck)]).toEqual([2, 1, 1]);
    expect(held.all.ends).not.toBeNull();
    expect(held.groups[1]!.ends).toBeNull();
  });

  it('of nothing left, of no turns and of no lanes has no end', () => {
    for (const own of [withHistory(2, 0), facts(), facts({ lanes: [], groups: 0 })]) {
      const { all, spread } = forecastCourse(own, { ...PLANNED, paths: 50 });
      expect([all.ends, all.fan, spread]).toEqual([null, [], []]);
    }
  });

  it('where the days do not suffice says so', () => {
    const { all } = forecastCourse(withHistory(1, 400), PLANNED);
    expect(all.ends).toEqual({ median: null, late: null, inTime: 0 });
  });

  it('of a branch leaves the others their time', () => {
    const own = withHistory(2, 8);
    const branch = { ...own, turns: own.turns.map((one, at) => ({ ...one, isCounted: at % 2 === 1 })) };
    expect(forecastCourse(branch, PLANNED).all.ends!.median).toBe(forecastCourse(own, PLANNED).all.ends!.median);
    expect(forecastCourse(branch, PLANNED).all.fan.at(-1)!.high).toBe(8);
  });

  it('reads quantiles as an independent library does (simple-statistics; seed 4)', () => {
    const own = createRound(4).facts;
    const paths = 501;
    const { all, spread } = forecastCourse(own, { ...PLANNED, paths, seed: 4 });
    const ends = spread.flatMap(({ day, paths: ended }) => new Array<number>(ended).fill(day));
    expect(ends).toHaveLength(paths);
    expect([all.ends!.median, all.ends!.late]).toEqual([quantile(ends, 0.5), quantile(ends, 0.85)]);
  });

  it('is the same again, and another with another seed', () => {
    const own = createRound(9).facts;
    const once = forecastCourse(own, { ...PLANNED, seed: 1 });
    expect(forecastCourse(own, { ...PLANNED, seed: 1 })).toEqual(once);
    const halves = ([1, 0] as const).map((part) => structuredClone(drawPaths(own, { ...PLANNED, seed: 1 }, part))).reverse();
    expect(forecastCourse(own, { ...PLANNED, seed: 1 }, halves)).toEqual(once);
    expect(forecastCourse(own, { ...PLANNED, seed: 2 }).spread).not.toEqual(once.spread);
  });
});

describe('what would help', () => {
  const look = (own: CourseFacts) => findRemedies(own, PLANNED);

  it('is the person in the lane that is behind, and what can be spared; each with the odds that it gives', () => {
    const own = withHistory(2, 6);
    const idle = turn({ run: 7, lane: 1, group: 1 });
    const facts2 = { ...own, groups: 2, lanes: [own.lanes[0]!, own.lanes[0]!], turns: [...own.turns, idle] };
    const sparable = {
      ...facts2,
      turns: facts2.turns.map((one, at) => ({ ...one, isSparable: at >= own.turns.length - 4 && at < own.turns.length })),
    };
    const found = look(sparable);
    expect(found.map(({ remedy }) => remedy)).toContainEqual({ kind: 'person', lane: 0 });
    expect(found.map(({ remedy }) => remedy)).toContainEqual({ kind: 'leave out', turns: 4 });
    // Two of six are left: one day; the odds are those of the forecast of what is left.
    expect(found.find(({ remedy }) => remedy.kind === 'leave out')!.ends.median).toBe(4);
  });

  it('is a quicker repair where repairs hold it up, and nothing where nothing does', () => {
    // The first two were tried again after three days; two more have been wrong since yesterday.
    const own = withHistory(2, 2);
    const isLast = (at: number) => at >= own.turns.length - 2;
    const before = own.tries.flatMap((one): CourseTry[] =>
      one.day === 0
        ? [
            { ...one, isThrough: false },
            { ...one, day: 3 },
          ]
        : [one],
    );
    const wrong = [2, 1].map((back): CourseTry => ({ turn: own.turns.length - back, day: 3, lane: 0, isThrough: false }));
    const turns = own.turns.map((one, at) => (isLast(at) ? { ...one, isWrong: true, isStopped: true } : one));
    const tries = [...before, ...wrong].sort((a, b) => a.day - b.day);
    expect(look({ ...own, turns, tries })[0]!.remedy).toEqual({ kind: 'repair' });
    expect(look(withHistory(4, 1))).toEqual([]);
  });
});

describe('a curve', () => {
  it('stands each evening as a count of newest attempts, and today as the statuses say (seeds 1 to 20)', () => {
    for (let seed = 1; seed <= 20; seed += 1) {
      const { facts: own } = createRound(seed);
      for (const unit of ['turns', 'minutes'] as const) {
        const { all, groups } = drawCurves(own, unit);
        for (let day = 0; day <= own.today; day += 1) {
          const newest = own.turns.map((_, at) => own.tries.findLast((one) => one.turn === at && one.day <= day));
          const sum = (isThrough: boolean) =>
            newest.reduce(
              (all, one) => all + (one?.isThrough === isThrough ? (unit === 'turns' ? 1 : own.turns[one.turn]!.minutes) : 0),
              0,
            );
          expect([all.through[day], all.wrong[day]]).toEqual([sum(true), sum(false)]);
          expect(groups.reduce((sum, curve) => sum + curve.through[day]!, 0)).toBe(all.through[day]);
        }
      }
    }
  });

  it('counts what was left out on its day, and what is begun again no more as wrong', () => {
    const turns = [through({ leftOutOn: 1 }), turn({ run: 1 })];
    const tries = [{ turn: 1, day: 0, lane: 0, isThrough: false }];
    expect(drawCurves(facts({ today: 2, turns, tries }), 'turns').all).toEqual({ through: [0, 1, 1], wrong: [1, 1, 0] });
  });
});

/**
 * A round of known law, played by a simulation of its own: chains over all lanes, which are not alike; a pace drawn anew for each lane and day, faults with a fixed
 * chance, repairs of one to three days. Known up to its ninth day; `end` is when it really ends.
 */
function createRound(seed: number, lanes = 3): { facts: CourseFacts; end: number } {
  const [RUNS, DAY, today] = [100, 480, 8];
  const random = createRandom(seed * 7_919);
  const law = Array.from({ length: lanes }, () => ({
    pace: (0.5 + random() * 0.4) * Math.exp(1.5 * (random() - 0.5)),
    error: 0.05 + random() * 0.15,
  }));
  const turns = Array.from({ length: RUNS * lanes }, (_, at) => {
    const minutes = 20 + Math.floor(random() * 40);
    return { run: Math.floor(at / lanes), index: at % lanes, minutes, rest: minutes, from: 0, end: Infinity };
  });
  const tries: CourseTry[] = [];
  let day = 0;
  for (; turns.some((one) => one.end === Infinity); day += 1) {
    const time = law.map(({ pace }) => DAY * pace * (0.5 + random()));
    for (let isMoving = true; isMoving;) {
      isMoving = false;
      turns.forEach((one, at) => {
        const isWaiting = one.index > 0 && turns[at - 1]!.end > day;
        if (one.end < Infinity || one.from > day || time[one.index]! <= 0 || isWaiting) return;
        const used = Math.min(time[one.index]!, one.rest);
        time[one.index]! -= used;
        one.rest -= used;
        isMoving = true;
        if (one.rest > 0) return;
        const isThrough = random() >= law[one.index]!.error;
        tries.push({ turn: at, day, lane: one.index, isThrough });
        if (isThrough) one.end = day;
        else [one.rest, one.from] = [one.minutes, day + 1 + Math.floor(random() * 3)];
      });
    }
  }
  const known = tries.filter((one) => one.day < today);
  const last = new Map(known.map((one) => [one.turn, one.isThrough]));
  return {
    end: day - 1,
    facts: {
      ...{ today, firstShare: 1, todayShare: 1, groups: lanes, tries: known },
      lanes: law.map(() => ({ people: 2, minutesByDay: new Array<number>(150).fill(DAY) })),
      turns: turns.map(({ run, index, minutes }, at) => {
        const isWrong = last.get(at) === false;
        const stands = { isThrough: last.get(at) === true, isWrong, isStopped: isWrong };
        return turn({ run, index, minutes, lane: index, group: index, after: index === 0 ? [] : [index - 1], ...stands });
      }),
    },
  };
}

describe('tried on 200 rounds of known law', () => {
  it('the 85 % day holds in 80 to 90 % of them, and the median in about half (seeds 1001 to 1200: 88.5 and 55 %)', () => {
    let [late, median] = [0, 0];
    for (let seed = 1_001; seed <= 1_200; seed += 1) {
      const { facts: own, end } = createRound(seed, 3 + (seed % 4));
      const { ends } = forecastCourse(own, { ...PLANNED, paths: 200, seed }).all;
      late += Number(end <= (ends!.late ?? Infinity));
      median += Number(end <= (ends!.median ?? Infinity));
    }
    expect([late / 200, median / 200]).toEqual([0.885, 0.55]);
    expect(late / 200).toBeGreaterThanOrEqual(0.8);
    expect(late / 200).toBeLessThanOrEqual(0.9);
  }, 60_000);
});

/** A round in which people do what is due: each turn up to two days before its day or on it, never behind for want of time; the last is due on day 24. */
function createDueRound(seed: number): { facts: CourseFacts; end: number } {
  const [RUNS, LEGS, DAYS, today] = [60, 4, 24, 8];
  const random = createRandom(seed * 104_729);
  const error = 0.05 + random() * 0.15;
  const tries: CourseTry[] = [];
  let end = 0;
  const turns = Array.from({ length: RUNS * LEGS }, (_, at) => ({
    ...{ run: Math.floor(at / LEGS), index: at % LEGS },
    dueOn: Math.floor((((at % LEGS) + random()) / LEGS) * DAYS),
  }));
  let before = 0;
  turns.forEach(({ index, dueOn }, at) => {
    let day = Math.max(index === 0 ? 0 : before, dueOn - Math.floor(random() * 3));
    for (;;) {
      const isThrough = random() >= error;
      tries.push({ turn: at, day, lane: index, isThrough });
      if (isThrough) break;
      day += 1 + Math.floor(random() * 3);
    }
    before = day;
    end = Math.max(end, day);
  });
  const known = tries.filter((one) => one.day < today).sort((a, b) => a.day - b.day);
  const last = new Map(known.map((one) => [one.turn, one.isThrough]));
  return {
    end,
    facts: facts({
      ...{
        today,
        groups: LEGS,
        tries: known,
        lanes: Array.from({ length: LEGS }, () => ({ people: 2, minutesByDay: new Array<number>(80).fill(3_000) })),
      },
      turns: turns.map(({ run, index, dueOn }, at) => {
        const isWrong = last.get(at) === false;
        const stands = { isThrough: last.get(at) === true, isWrong, isStopped: isWrong };
        return turn({ run, index, dueOn, lane: index, group: index, after: index === 0 ? [] : [index - 1], ...stands });
      }),
    }),
  };
}

describe('tried on 200 rounds in which people keep to the days', () => {
  it('the 85 % day holds in 80 % of them and more, and the median is a day off (seeds 1 to 200: 94 % hold, the median is 1.1 days early)', () => {
    let late = 0;
    const off: number[] = [];
    for (let seed = 1; seed <= 200; seed += 1) {
      const { facts: own, end } = createDueRound(seed);
      const { ends } = forecastCourse(own, { ...PLANNED, paths: 200, seed }).all;
      late += Number(end <= ends!.late!);
      off.push(ends!.median! - end);
    }
    expect(late / 200).toBeGreaterThanOrEqual(0.8);
    expect(Math.abs(mean(off))).toBeLessThan(1.5);
  });
});
