import type { CourseFacts } from './course.ts';
import type { Ends, ForecastOptions } from './forecast.ts';
import { forecastCourse } from './forecast.ts';

/** What could be done so that a cycle ends sooner. */
export type Remedy =
  | { readonly kind: 'repair' }
  | { readonly kind: 'person'; readonly lane: number }
  /** Runs of low priority that nobody has begun. */
  | { readonly kind: 'leave out'; readonly turns: number };

export interface TriedRemedy {
  readonly remedy: Remedy;
  readonly ends: Ends;
}

type Wanted = Omit<ForecastOptions, 'paths' | 'isRepairedNextDay'>;
type Options = Wanted & { readonly paths: number };

/** A remedy is told by so many paths; fewer tell which lane another person helps most. All are drawn with the same luck, so that what differs is the remedy. */
export const REMEDY_PATHS = 500;
const SORTING_PATHS = 100;

/** The best remedy of each kind that helps, the one with the best odds first; each is a forecast of its own. Cost O(REMEDY_PATHS) four times, and for each lane fewer. */
export function findRemedies(facts: CourseFacts, wanted: Wanted): TriedRemedy[] {
  const options = { ...wanted, paths: REMEDY_PATHS };
  const before = forecastCourse(facts, options).all.ends;
  if (!before) return [];
  return [...tryRepair(facts, options), ...tryPerson(facts, options), ...tryLeavingOut(facts, options)]
    .filter(({ ends }) => compareEnds(ends, before) < 0)
    .sort((a, b) => compareEnds(a.ends, b.ends));
}

/** Below 0: the first is better. By the odds to be in time; where those are as good as equal, by the day of even odds. */
function compareEnds(a: Ends, b: Ends): number {
  if (Math.abs(a.inTime - b.inTime) >= LEAST_GAIN) return b.inTime - a.inTime;
  return a.median === b.median ? 0 : (a.median ?? Infinity) - (b.median ?? Infinity);
}

const LEAST_GAIN = 0.02;

const toTried = (remedy: Remedy, ends: Ends | null): TriedRemedy[] => (ends ? [{ remedy, ends }] : []);

const tryRepair = (facts: CourseFacts, options: Options) =>
  toTried({ kind: 'repair' }, forecastCourse(facts, { ...options, isRepairedNextDay: true }).all.ends);

function tryPerson(facts: CourseFacts, options: Options): TriedRemedy[] {
  const busy = new Set(facts.turns.flatMap(({ isThrough, lane }) => (isThrough ? [] : [lane])));
  const tried = facts.lanes.flatMap(({ people }, lane) => {
    if (people === 0 || !busy.has(lane)) return [];
    return toTried({ kind: 'person', lane }, forecastCourse(withOneMore(facts, lane), { ...options, paths: SORTING_PATHS }).all.ends);
  });
  const [best] = tried.sort((a, b) => compareEnds(a.ends, b.ends));
  if (best?.remedy.kind !== 'person') return [];
  return toTried(best.remedy, forecastCourse(withOneMore(facts, best.remedy.lane), options).all.ends);
}

/** One more with the hours of those who are there, from tomorrow on. */
const withOneMore = (facts: CourseFacts, lane: number): CourseFacts => ({
  ...facts,
  lanes: facts.lanes.map((own, at) => {
    if (at !== lane) return own;
    return {
      ...own,
      minutesByDay: own.minutesByDay.map((minutes, day) => (day > facts.today ? (minutes * (own.people + 1)) / own.people : minutes)),
    };
  }),
});

function tryLeavingOut(facts: CourseFacts, options: Options): TriedRemedy[] {
  const turns = facts.turns.filter(({ isSparable }) => isSparable).length;
  if (turns === 0) return [];
  const rest = facts.turns.map((turn) =>
    turn.isSparable ? { ...turn, isThrough: true, isWrong: false, isStopped: false, leftOutOn: facts.today } : turn,
  );
  return toTried({ kind: 'leave out', turns }, forecastCourse({ ...facts, turns: rest }, options).all.ends);
}
