import { createRandom, toSeed } from '../values/fresh.ts';
import type { Sample } from './censored-samples.ts';
import { createShares, sortSamples } from './censored-samples.ts';
import type { CourseFacts, CourseUnit } from './course.ts';
import { weighTurn } from './course.ts';
import type { Paces } from './measure-paces.ts';
import { measurePaces } from './measure-paces.ts';
import { createPathDraws } from './draw-path.ts';
import type { Rest } from './gather-rest.ts';
import { gatherRest } from './gather-rest.ts';
import { createPaths } from './walk-path.ts';

export interface ForecastOptions {
  readonly unit: CourseUnit;
  /** The day by which it should end. */
  readonly plannedDay: number;
  readonly paths?: number;
  readonly seed?: number;
  /** Whatever went wrong can be tried again on the next day. */
  readonly isRepairedNextDay?: boolean;
}

/** Days; null: not within the days that are looked at. */
export interface Ends {
  /** Half of the paths, and 85 % of them, have ended by then. */
  readonly median: number | null;
  readonly late: number | null;
  /** The share of paths that end by the planned day. */
  readonly inTime: number;
}

/** What is through in the evening of a day: in 85 of 100 paths between low and high. */
export interface FanDay {
  readonly day: number;
  readonly low: number;
  readonly middle: number;
  readonly high: number;
}

export interface ForecastLine {
  /** null: nothing of it is left that can be done. */
  readonly ends: Ends | null;
  readonly fan: readonly FanDay[];
  /** Turns without an end: nobody is in their lane, or they wait for such. */
  readonly stuck: number;
}

export interface Forecast {
  readonly paths: number;
  readonly all: ForecastLine;
  readonly groups: readonly ForecastLine[];
  /** By group, in which share of the paths its turn is the last. */
  readonly decides: readonly number[];
  /** How many paths end on which day; those that do not end within the days that are looked at are not among them. */
  readonly spread: readonly { readonly day: number; readonly paths: number }[];
  /** By lane: on how many of its days the pace rests; *plan*: too few, a planned minute is taken to be a minute. */
  readonly paces: readonly { readonly from: 'days' | 'plan'; readonly days: number }[];
  /** What went wrong and was tried again, and what was not yet; the days by which half are tried again. null: none was, a repair is taken to last until the next day. */
  readonly repairs: {
    readonly done: number;
    readonly waiting: number;
    readonly median: number | null;
    /** So many still wait that the days rest on the longest wait so far: half may take longer. */
    readonly isGuess: boolean;
  };
}

export const FORECAST_PATHS = 2_000;
/** With fewer days of its own a lane is taken to keep the plan's pace. */
export const LEAST_DAYS = 3;
/** So many of the ends lie by the *late* day. */
export const LATE = 0.85;
const LOW = 0.075;

/**
 * When it will end: paths through the rest of the cycle, drawn from its own days. On each day a lane does as much as on one of its own days, for the time that its
 * people then have; it takes what is at hand by due day; a turn goes wrong by the lane's own share and comes back after a repair as long as one of those observed; what waits
 * for others waits (decision 0040). Not known to it: days that are like their neighbours, people who learn, faults yet to come. Cost O(paths × (attempts + lanes × days)).
 * `given` are the paths where they were drawn elsewhere.
 */
export function forecastCourse(facts: CourseFacts, options: ForecastOptions, given?: readonly DrawnPaths[]): Forecast {
  const { unit, plannedDay } = options;
  const { measured, rest, draw } = prepare(facts, options);
  const parts = given ?? [draw(0), draw(1)];
  const lineOf = (at: number, group: number | null) =>
    toLine(parts, at, { facts, plannedDay, base: countThrough(facts, unit, group), stuck: countStuck(rest, group) });
  const paths = parts.reduce((sum, part) => sum + part.paths, 0);
  return {
    paths,
    decides: Array.from({ length: facts.groups }, (_, group) => parts.reduce((sum, part) => sum + part.decides[group]!, 0) / paths),
    spread: countEnds(joinEnds(parts, facts.groups)),
    all: lineOf(facts.groups, null),
    groups: Array.from({ length: facts.groups }, (_, group) => lineOf(group, group)),
    paces: measured.lanes.map((pace) => ({ from: isUnknown(pace) ? 'plan' : 'days', days: pace.samples.length })),
    repairs: describeRepairs(measured.repairs),
  };
}

/** One half of the paths of a forecast, from a seed of its own: two threads can draw one each, and it is the same as when one draws both. */
export const drawPaths = (facts: CourseFacts, options: ForecastOptions, part: Part): DrawnPaths => prepare(facts, options).draw(part);

type Part = 0 | 1;

function prepare(facts: CourseFacts, { unit, paths = FORECAST_PATHS, seed = 1, isRepairedNextDay = false }: ForecastOptions) {
  const measured = measurePaces(facts);
  const rest = gatherRest(facts, unit);
  const draw = (part: Part) =>
    walkPaths(rest, settlePaces(isRepairedNextDay ? { ...measured, repairs: [] } : measured), {
      paths: part === 0 ? Math.ceil(paths / 2) : Math.floor(paths / 2),
      random: createRandom(toSeed(`${seed} ${part}`)),
    });
  return { measured, rest, draw };
}

/** A lane with too few days, or that has done nothing on all of them. */
const isUnknown = ({ samples }: Paces['lanes'][number]) => samples.length < LEAST_DAYS || samples.every(({ value }) => value === 0);

/** What the days of all lanes say of one weighs as much as so many days of its own: few days of one lane say little, and the slowest of several is seldom as slow as it looks. */
const PRIOR_DAYS = 2;

function settlePaces({ lanes, repairs, leads }: Paces): Paces {
  const all = lanes.flatMap((pace) => (isUnknown(pace) ? [] : pace.samples));
  const usual = all.map((sample) => ({ ...sample, weight: PRIOR_DAYS / all.length }));
  return {
    leads,
    repairs: hasKnown(repairs) ? repairs : [],
    lanes: lanes.map((pace) => ({ ...pace, samples: isUnknown(pace) ? [PLAN_PACE] : sortSamples([...pace.samples, ...usual]) })),
  };
}

const PLAN_PACE: Sample = { value: 1, isAtLeast: false };
const hasKnown = (samples: readonly Sample[]) => samples.some(({ isAtLeast }) => !isAtLeast);

function describeRepairs(samples: readonly Sample[]): Forecast['repairs'] {
  const done = samples.filter(({ isAtLeast }) => !isAtLeast).length;
  const shares = createShares(samples);
  shares.weigh(() => 1);
  const isGuess = samples.at(-1)?.isAtLeast === true && (shares.sums.at(-2) ?? 0) <= 0.5;
  return { done, waiting: samples.length - done, median: done > 0 ? shares.draw(0.5) : null, isGuess };
}

export interface DrawnPaths {
  /** By group, and last of all: the end of each path. */
  readonly ends: readonly Float64Array[];
  /** By group, and last of all: what became through by day, path after path. */
  readonly levels: readonly Float32Array[];
  readonly decides: readonly number[];
  readonly days: number;
  readonly paths: number;
}

function walkPaths(rest: Rest, paces: Paces, { paths, random }: { readonly paths: number; readonly random: () => number }): DrawnPaths {
  const { groups, lanes, today } = rest.facts;
  const days = Math.max(0, ...lanes.map(({ minutesByDay }) => minutesByDay.length - today));
  const ends = Array.from({ length: groups + 1 }, () => new Float64Array(paths));
  const size = paths * days;
  const ofGroups = new Float32Array(groups * size);
  const decides = new Array<number>(groups).fill(0);
  let start = 0;
  const walkPath = createPaths(rest, createPathDraws(rest.facts, paces, random), (day, group, weight) => {
    ofGroups[group * size + start + day]! += weight;
  });
  for (let path = 0; path < paths; path += 1) {
    start = path * days - today;
    const { ends: own, last } = walkPath();
    own.forEach((end, group) => (ends[group]![path] = end));
    ends[groups]![path] = own.reduce((latest, end) => Math.max(latest, end), -1);
    if (last >= 0) decides[last]! += 1;
  }
  const levels = Array.from({ length: groups }, (_, group) => ofGroups.subarray(group * size, (group + 1) * size));
  return { ends, levels: [...levels, addUp(levels, size)], decides, days, paths };
}

function addUp(lists: readonly Float32Array[], size: number): Float32Array {
  const sums = new Float32Array(size);
  for (const list of lists) for (let at = 0; at < size; at += 1) sums[at]! += list[at]!;
  return sums;
}

interface LineParts {
  readonly facts: CourseFacts;
  readonly plannedDay: number;
  /** What is through by now. */
  readonly base: number;
  readonly stuck: number;
}

function toLine(parts: readonly DrawnPaths[], at: number, { facts, plannedDay, base, stuck }: LineParts): ForecastLine {
  const sorted = joinEnds(parts, at).sort();
  const paths = sorted.length;
  if (sorted[0] === undefined || sorted[0] < 0) return { ends: null, fan: [], stuck };
  const toEnd = (share: number) => toDayOrNull(sorted[rankOf(share, paths)]!);
  const last = toEnd(1 - LOW);
  const shown = Math.min(parts[0]!.days, (last ?? Infinity) - facts.today + 1);
  const soFar = new Float32Array(paths).fill(base);
  const column = new Float32Array(paths);
  const fan = Array.from({ length: shown }, (_, day) => {
    let path = 0;
    for (const { levels, days, paths: own } of parts)
      for (let one = 0; one < own; one += 1, path += 1) column[path] = soFar[path]! += levels[at]![one * days + day]!;
    column.sort();
    const read = (share: number) => column[rankOf(share, paths)]!;
    return { day: facts.today + day, low: read(LOW), middle: read(0.5), high: read(1 - LOW) };
  });
  const inTime = sorted.reduce((sum, end) => sum + Number(end <= plannedDay), 0) / paths;
  return { ends: { median: toEnd(0.5), late: toEnd(LATE), inTime }, fan, stuck };
}

/** The ends of all paths, of a group or of all. */
function joinEnds(parts: readonly DrawnPaths[], at: number): Float64Array {
  return Float64Array.from(parts.flatMap(({ ends }) => [...ends[at]!]));
}

/** The place among sorted ones at which at least this share is reached. */
const rankOf = (share: number, size: number) => Math.min(size - 1, Math.max(0, Math.ceil(share * size) - 1));
const toDayOrNull = (end: number) => (end === Infinity ? null : end);

const isOf = (group: number | null, turn: CourseFacts['turns'][number]) => turn.isCounted && (group === null || turn.group === group);

const countThrough = ({ turns }: CourseFacts, unit: CourseUnit, group: number | null) =>
  turns.reduce((sum, turn) => sum + (turn.isThrough && isOf(group, turn) ? weighTurn(turn, unit) : 0), 0);

const countStuck = ({ stuck, facts }: Rest, group: number | null) => stuck.filter((at) => isOf(group, facts.turns[at]!)).length;

function countEnds(ends: Float64Array): Forecast['spread'] {
  const counts = new Map<number, number>();
  for (const end of ends) if (end >= 0 && end < Infinity) counts.set(end, (counts.get(end) ?? 0) + 1);
  return [...counts].sort(([a], [b]) => a - b).map(([day, paths]) => ({ day, paths }));
}
