import type { PackedRows } from '../tables/pack-rows.ts';
import { unpackRows } from '../tables/pack-rows.ts';

/**
 * What the course of a cycle is drawn and forecast from. Days are numbers from the cycle's first day, which is 0; a *group* is a line of the drawing (a
 * team), a *lane* is who does the work: the people of a team, or the runners of a pool.
 */
export interface CourseTurn {
  readonly group: number;
  readonly lane: number;
  /** With its run, what `after` of the others means by it. */
  readonly run: number;
  readonly index: number;
  /** Places in its run that must be through before. */
  readonly after: readonly number[];
  /** Days that pass after those. */
  readonly waitDays: number;
  /** What it was planned to take. */
  readonly minutes: number;
  readonly isThrough: boolean;
  /** Its newest attempt failed or was blocked. */
  readonly isWrong: boolean;
  /** Wrong, and not to be tried again yet. */
  readonly isStopped: boolean;
  /** The day on which it was left out, where no attempt made it through. */
  readonly leftOutOn: number | null;
  readonly dueOn: number | null;
  /** Of a run of low priority that nobody has begun. */
  readonly isSparable: boolean;
  /** It is of the branch that is looked at; the others take the same people's time. */
  readonly isCounted: boolean;
}

/** A finished attempt, in the order in which they ended. */
export interface CourseTry {
  /** The place of its turn. */
  readonly turn: number;
  readonly day: number;
  /** Whose time it took. */
  readonly lane: number;
  readonly isThrough: boolean;
}

export interface CourseFacts {
  readonly today: number;
  /** Of the first day's work, the share that came after the cycle was opened; of today's, the share that is left. */
  readonly firstShare: number;
  readonly todayShare: number;
  readonly groups: number;
  /** How many people (or sessions of runners) a lane has, and the minutes that they have together on each day, from the first to the last that is looked at. */
  readonly lanes: readonly { readonly people: number; readonly minutesByDay: readonly number[] }[];
  readonly turns: readonly CourseTurn[];
  readonly tries: readonly CourseTry[];
}

/** The same with its turns and attempts by columns, as it crosses to a browser. */
export interface PackedFacts extends Omit<CourseFacts, 'groups' | 'turns' | 'tries'> {
  readonly groups: readonly unknown[];
  readonly turns: PackedRows;
  readonly tries: PackedRows;
}

export const unpackFacts = ({ groups, turns, tries, ...facts }: PackedFacts): CourseFacts => ({
  ...{ ...facts, groups: groups.length, turns: unpackRows<CourseTurn>(turns), tries: unpackRows<CourseTry>(tries) },
});

export type CourseUnit = 'turns' | 'minutes';

/** What a turn counts for. */
export const weighTurn = ({ minutes }: Pick<CourseTurn, 'minutes'>, unit: CourseUnit): number => (unit === 'turns' ? 1 : minutes);
