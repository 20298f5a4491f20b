import { z } from 'zod';
import { codeSchema, momentSchema, packedRowsSchema } from '../common.ts';
import { oneCycleSchema } from '../cycles/choice.ts';
import { cycleSpanSchema } from './progress.ts';

export const courseQuerySchema = z.object({ cycle: oneCycleSchema, scope: codeSchema.optional() });
export type CourseQuery = z.infer<typeof courseQuerySchema>;

/** What the course of a cycle is drawn and forecast from (core: progress/course); days are numbers from `firstDay`, which is 0. */
const courseFactsSchema = z.object({
  firstDay: z.string(),
  ...{ today: z.int(), firstShare: z.number(), todayShare: z.number() },
  /** The day by which it should end. */
  plannedDay: z.int(),
  /** It is closed: *today* is its last day, and nothing is forecast. */
  isOver: z.boolean(),
  /** Teams with turns, in their order; NONE: no team. */
  groups: z.array(z.object({ key: z.string(), name: z.string() })),
  /** Who does the work: the people of teams, then runners of pools. */
  lanes: z.array(z.object({ name: z.string(), people: z.int(), minutesByDay: z.array(z.number()) })),
  turns: packedRowsSchema,
  tries: packedRowsSchema,
  /** What was planned when it opened, of the branch that is looked at; none where it was not kept. */
  baseline: z.array(z.object({ day: z.int(), group: z.int(), turns: z.int(), minutes: z.int() })),
  /** Turns that came or went since; minutes where they were noted. Of the whole cycle. */
  scopeChanges: z.array(z.object({ day: z.int(), at: momentSchema, turns: z.int(), minutes: z.int().nullable(), why: z.string() })),
});
export type PackedCourse = z.infer<typeof courseFactsSchema>;

export const courseSchema = z.object({
  cycle: cycleSpanSchema.nullable(),
  cycles: z.array(z.object({ code: z.string(), name: z.string() })),
  /** null: it has not opened yet. */
  course: courseFactsSchema.nullable(),
});
export type CourseView = z.infer<typeof courseSchema>;
