/**
 * What a table of progress counts. Turns and minutes of work are counted where they stand. A test or a whole run is one thing however many turns it has:
 * a test stands as the worst of its turns that are counted together, a run as its outcome (outcomes.ts).
 */
import type { Counts } from './tally.ts';
import type { RunOutcome, TurnStatus } from '../outcomes.ts';
import { getStatusLabel, isLeft, TURN_STATUSES } from '../outcomes.ts';

interface CountedFacts {
  readonly word: string;
  readonly one: string;
  /** Several turns are one of it. */
  readonly isWhole: boolean;
  /** Where a status has another word than that of a turn. */
  readonly words: Readonly<Partial<Record<TurnStatus, string>>>;
}

const COUNTED_FACTS = {
  turns: { word: 'Turns', one: 'turn', isWhole: false, words: {} },
  runs: { word: 'Whole runs', one: 'run', isWhole: true, words: { passed: 'through', waiting: 'not begun' } },
  tests: { word: 'Tests', one: 'test', isWhole: true, words: {} },
  minutes: { word: 'Minutes of work', one: 'minute', isWhole: false, words: {} },
} as const satisfies Readonly<Record<string, CountedFacts>>;
export type Counted = keyof typeof COUNTED_FACTS;
export const COUNTED = Object.keys(COUNTED_FACTS) as [Counted, ...Counted[]];
export const getCountedLabel = (counted: Counted): string => COUNTED_FACTS[counted].word;
export const getCountedNoun = (counted: Counted): string => COUNTED_FACTS[counted].one;
export const isWhole = (counted: Counted): boolean => COUNTED_FACTS[counted].isWhole;
export const getStandingWord = (counted: Counted, status: TurnStatus): string =>
  (COUNTED_FACTS[counted] as CountedFacts).words[status] ?? getStatusLabel(status).toLowerCase();

/** Of the turns of one test, the worst first: what is wrong, then what is not yet run, then what passed. What is left out tells only of itself. */
export const WORST_FIRST: readonly TurnStatus[] = ['failed', 'blocked', 'held', 'waiting', 'ready', 'under way', 'passed', 'skipped'];

/** How several turns stand together; undefined of none. */
export const getWorst = (statuses: readonly TurnStatus[]): TurnStatus | undefined =>
  WORST_FIRST.find((status) => statuses.includes(status));

/** Under what a whole run is counted. */
export const RUN_STATUSES: Readonly<Record<RunOutcome, TurnStatus>> = {
  ...{ failed: 'failed', blocked: 'blocked', passed: 'passed' },
  ...{ 'under way': 'under way', 'not run': 'waiting', skipped: 'skipped' },
};

/** The three parts of every bar; each can be left out of what is shown and sorted by. */
const PART_FACTS = {
  errors: { word: 'Failed, blocked', has: (status: TurnStatus) => status === 'failed' || status === 'blocked' },
  passed: { word: 'Passed', has: (status: TurnStatus) => status === 'passed' },
  rest: { word: 'Not run yet', has: isLeft },
} as const;
export type Part = keyof typeof PART_FACTS;
export const PARTS = Object.keys(PART_FACTS) as [Part, ...Part[]];
export const getPartLabel = (part: Part): string => PART_FACTS[part].word;
export const sumPart = (counts: Counts, part: Part): number =>
  TURN_STATUSES.reduce((sum, status) => sum + (PART_FACTS[part].has(status) ? counts[status] : 0), 0);

export const listStatuses = (parts: readonly Part[]): TurnStatus[] =>
  TURN_STATUSES.filter((status) => parts.some((part) => PART_FACTS[part].has(status)));

/** Only these parts of the counts; what is left out of the round stays out unless all are shown. */
export function pickParts(counts: Counts, parts: readonly Part[]): Counts {
  if (parts.length === PARTS.length) return counts;
  const shown = listStatuses(parts);
  return Object.fromEntries(TURN_STATUSES.map((status) => [status, shown.includes(status) ? counts[status] : 0])) as Record<
    TurnStatus,
    number
  >;
}
