import { z } from 'zod';
import { courseQuerySchema } from './course.ts';
import { defectCourseQuerySchema } from './defects.ts';
import { effortQuerySchema } from './effort.ts';
import { progressQuerySchema } from './progress.ts';
import { teamProgressQuerySchema } from './teams.ts';
import { wrongStepsQuerySchema } from './wrong-steps.ts';

const format = z.enum(['csv', 'xlsx']).default('xlsx');

/** A view of progress as a file: asked as the view is, whole. */
export const progressFileQuerySchema = z.discriminatedUnion('view', [
  progressQuerySchema.extend({ view: z.literal('where'), format }),
  courseQuerySchema.extend({ view: z.literal('course'), format }),
  teamProgressQuerySchema.extend({ view: z.literal('teams'), format }),
  effortQuerySchema.extend({ view: z.literal('effort'), format }),
  wrongStepsQuerySchema.extend({ view: z.literal('steps'), format }),
  defectCourseQuerySchema.extend({ view: z.literal('defects'), format }),
]);
export type ProgressFileQuery = z.output<typeof progressFileQuerySchema>;
