import type { Cut, SliceView } from '@kindred-baton/core/boards/slice';
import { SLICE_VIEWS } from '@kindred-baton/core/boards/slice';
import { z } from 'zod';
import { idSchema, nameSchema } from '../common.ts';
import { courseQuerySchema } from '../progress/course.ts';
import { defectCourseQuerySchema } from '../progress/defects.ts';
import { effortQuerySchema } from '../progress/effort.ts';
import { progressQuerySchema } from '../progress/progress.ts';
import { teamProgressQuerySchema } from '../progress/teams.ts';
import { wrongStepsQuerySchema } from '../progress/wrong-steps.ts';
import { turnListQuerySchema } from '../turns/turn.ts';

const sliceViewSchema = z.enum(SLICE_VIEWS);

const MOST_PARAMETERS = 30;
const cutSchema = z
  .record(z.string().max(40), z.string().max(400))
  .refine((cut) => Object.keys(cut).length <= MOST_PARAMETERS, `A cut has at most ${MOST_PARAMETERS} parts.`);

/** What each view is asked with. */
const QUERIES = {
  ...{ where: progressQuerySchema, course: courseQuerySchema, teams: teamProgressQuerySchema },
  ...{ steps: wrongStepsQuerySchema, effort: effortQuerySchema, defects: defectCourseQuerySchema, turns: turnListQuerySchema },
};

const nameAndShare = { name: nameSchema, isShared: z.boolean() };
const viewAndCut = { view: sliceViewSchema, cut: cutSchema };

/** A cut that its view does not understand is not kept. */
function checkCut({ view, cut }: { readonly view: SliceView; readonly cut: Cut }, check: z.RefinementCtx): void {
  for (const issue of QUERIES[view].safeParse(cut).error?.issues ?? [])
    check.addIssue({ code: 'custom', path: ['cut', ...issue.path], message: issue.message });
}

export const keepSliceSchema = z
  .object({
    ...{ ...nameAndShare, ...viewAndCut },
    /** Of one that was dropped and is taken back; left out: a new one. */
    id: idSchema<'slice'>().optional(),
  })
  .superRefine(checkCut);
export type KeepSlice = z.infer<typeof keepSliceSchema>;

export const changeSliceSchema = z.object({
  ...nameAndShare,
  /** Left out: it is called otherwise or shared, and stays what it was, what is gone of it too. */
  shows: z.object(viewAndCut).superRefine(checkCut).optional(),
});
export type ChangeSlice = z.infer<typeof changeSliceSchema>;

export const sliceSchema = z.object({
  id: idSchema<'slice'>(),
  name: z.string(),
  view: sliceViewSchema,
  isShared: z.boolean(),
  isMine: z.boolean(),
  owner: z.string(),
  /** As it is today: nodes, teams and tests by what they are called now, without those that are gone. */
  cut: z.record(z.string(), z.string()),
  /** What of it is gone, as it was called; the rest is wider than what was kept. */
  gone: z.array(z.string()),
});
export type SliceInfo = z.infer<typeof sliceSchema>;
