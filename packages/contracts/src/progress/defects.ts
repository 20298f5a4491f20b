import { SEVERITIES } from '@kindred-baton/core/defects/defect';
import { z } from 'zod';
import { codeSchema } from '../common.ts';
import { oneCycleSchema } from '../cycles/choice.ts';
import { cycleSpanSchema } from './progress.ts';

export const defectCourseQuerySchema = z.object({ cycle: oneCycleSchema, scope: codeSchema.optional() });
export type DefectCourseQuery = z.infer<typeof defectCourseQuerySchema>;

/** Of some defects; times in milliseconds, null where there is none to tell (core: progress/defect-course). */
const sumsSchema = z.object({
  ...{ found: z.int(), open: z.int(), atRetest: z.int(), fixed: z.int(), reopened: z.int() },
  ...{ fixes: z.int(), medianFixMs: z.number().nullable(), oldestMs: z.number().nullable() },
});

const defectDaySchema = z.object({
  date: z.string(),
  ...{ found: z.int(), fixed: z.int(), reopened: z.int(), over: z.int() },
  /** Not over at its end. */
  open: z.record(z.enum(SEVERITIES), z.int()),
});
export type DefectDayView = z.infer<typeof defectDaySchema>;

export const defectCourseSchema = z.object({
  cycle: cycleSpanSchema.nullable(),
  cycles: z.array(z.object({ code: z.string(), name: z.string() })),
  /** From the day on which it opened, or the first was found, to today; of a closed one, to its last day or the last on which something happened. */
  days: z.array(defectDaySchema),
  all: sumsSchema,
  /** Those that were found at turns of each team, NONE: at none's; in the order of the teams. */
  teams: z.array(z.object({ key: z.string(), name: z.string(), sums: sumsSchema })),
  severities: z.array(z.object({ severity: z.enum(SEVERITIES), sums: sumsSchema })),
});
export type DefectCourseView = z.infer<typeof defectCourseSchema>;
export type DefectSumsView = DefectCourseView['all'];
