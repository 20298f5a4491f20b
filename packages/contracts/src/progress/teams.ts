import { z } from 'zod';
import { codeSchema, countsSchema } from '../common.ts';
import { oneCycleSchema } from '../cycles/choice.ts';
import { cycleSpanSchema } from './progress.ts';

export const teamProgressQuerySchema = z.object({
  cycle: oneCycleSchema,
  scope: codeSchema.optional(),
  /** Testers: where the programme's rules allow it. */
  each: z.enum(['team', 'tester']).default('team'),
});
export type TeamProgressQuery = z.infer<typeof teamProgressQuerySchema>;

const teamLineSchema = z.object({
  /** Its name, or NONE; of testers, the person’s. */
  key: z.string(),
  name: z.string(),
  counts: countsSchema,
  /** Turns that were due before today and are not over. */
  late: z.int(),
  /** Turns that wait behind what holds the baton at this team, each once; null of a tester: a defect at her turns waits for somebody else. */
  keeps: z.int().nullable(),
  /** Turns that people have tried to the end, and what those were planned and took, in minutes of all. */
  ...{ tried: z.int(), planned: z.number(), spent: z.number() },
});
export type TeamLine = z.infer<typeof teamLineSchema>;

export const teamProgressSchema = z.object({
  cycle: cycleSpanSchema.nullable(),
  cycles: z.array(z.object({ code: z.string(), name: z.string() })),
  teams: z.array(teamLineSchema),
  each: z.enum(['team', 'tester']),
  mayNameTesters: z.boolean(),
});
export type TeamProgress = z.infer<typeof teamProgressSchema>;
