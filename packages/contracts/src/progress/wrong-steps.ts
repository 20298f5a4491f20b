import { RANKINGS } from '@kindred-baton/core/progress/rank-things';
import { z } from 'zod';
import { codeSchema, codedSchema, idSchema, momentSchema, placedPageSchema } from '../common.ts';
import { oneCycleSchema } from '../cycles/choice.ts';
import { holdSchema } from './holds.ts';
import { cycleSpanSchema } from './progress.ts';

/** Whose tries are counted. */
const TRIED_BY = ['all', 'people', 'runners'] as const;
export type TriedBy = (typeof TRIED_BY)[number];

export const STEPS_A_PAGE = 50;
/** How many tries of a step are shown, and how many of what was seen instead. */
export const TRIES_SHOWN = 40;
export const SEEN_SHOWN = 6;

const wrongStepsQueryBase = z.object({
  cycle: oneCycleSchema,
  scope: codeSchema.optional(),
  by: z.enum(TRIED_BY).default('all'),
});

const thingKeySchema = z.string().max(2_000).optional();

export const wrongStepsQuerySchema = wrongStepsQueryBase.extend({
  each: z.enum(RANKINGS).default('step'),
  /** Only steps that name this, or stand on this screen, by its key. */
  ...{ target: thingKeySchema, screen: thingKeySchema },
  page: z.coerce.number().int().min(1).default(1),
});
export type WrongStepsQuery = z.infer<typeof wrongStepsQuerySchema>;

const wrongStepSchema = z.object({
  test: codedSchema.omit({ id: true }),
  /** The newest version that has this step, and its place there, from 0. */
  ...{ version: z.int(), index: z.int() },
  /** Other versions whose tries are counted with it. */
  versions: z.array(z.int()),
  /** What is done, and what should be seen then. */
  ...{ sentence: z.string(), expect: z.string() },
  teams: z.array(z.string()),
  ...{ tries: z.int(), failed: z.int(), blocked: z.int() },
  /** The bounds of the share of tries that go wrong, 95 %. */
  ...{ low: z.number(), high: z.number() },
  defects: z.array(z.object({ code: z.string(), title: z.string(), isOpen: z.boolean() })),
  /** Turns that wait behind it, and their minutes of work. */
  waiting: z.object({ turns: z.int(), minutes: z.int() }),
});
export type WrongStepView = z.infer<typeof wrongStepSchema>;

/** A field, a button or a screen, over all steps that name it (core: progress/rank-things). */
const wrongThingSchema = z.object({
  ...{ key: z.string(), name: z.string(), application: z.string(), tests: z.int(), steps: z.int() },
  ...{ tries: z.int(), failed: z.int(), blocked: z.int(), low: z.number(), high: z.number() },
  /** The step of it at which most went wrong, and at how many something did. */
  worst: z.object({ test: codedSchema.omit({ id: true }), index: z.int(), errors: z.int() }),
  wrongSteps: z.int(),
  defects: z.array(z.object({ code: z.string(), title: z.string(), isOpen: z.boolean() })),
  waiting: z.object({ turns: z.int(), minutes: z.int() }),
});
export type WrongThingView = z.infer<typeof wrongThingSchema>;

export const wrongStepsSchema = z.object({
  each: z.enum(RANKINGS),
  cycle: cycleSpanSchema.nullable(),
  cycles: z.array(z.object({ code: z.string(), name: z.string() })),
  /** Over all that was tried: steps (or things), tries, and tries that went wrong; of those, what the worst ten have. */
  ...{ steps: z.int(), tries: z.int(), errors: z.int(), errorsOfTen: z.int() },
  /** Turns that failed or were blocked without written steps: not in this list. */
  unwritten: z.int(),
  rows: placedPageSchema,
  /** Steps, where each is one; */
  wrong: z.array(wrongStepSchema),
  /** else things; and the errors at steps that are counted under none. */
  things: z.array(wrongThingSchema),
  unplaced: z.int(),
  /** What the steps are narrowed to, as it is called. */
  only: z.object({ each: z.enum(RANKINGS).exclude(['step']), name: z.string() }).nullable(),
});
export type WrongSteps = z.infer<typeof wrongStepsSchema>;

export const stepTriesQuerySchema = wrongStepsQueryBase.extend({
  test: codeSchema,
  version: z.coerce.number().int().min(1),
  index: z.coerce.number().int().min(0),
});
export type StepTriesQuery = z.infer<typeof stepTriesQuerySchema>;

export const stepTriesSchema = z.object({
  step: wrongStepSchema,
  /** What was seen instead, the most often first; the rest is counted. */
  seen: z.array(z.object({ text: z.string(), tries: z.int() })),
  otherSeen: z.int(),
  holds: z.array(holdSchema),
  /** Who is to go on where it holds, the most waiting first: whoever fixes the defect, else whoever has the turn; null: nobody yet. Asked about by one of those turns. */
  asked: z.array(
    z.object({
      turn: idSchema<'turn'>(),
      person: z.string().nullable(),
      defect: z.string().nullable(),
      ...{ turns: z.int(), nudges: z.int() },
    }),
  ),
  /** The newest first; at most TRIES_SHOWN. */
  wrong: z.array(
    z.object({
      attempt: idSchema<'attempt'>(),
      turn: idSchema<'turn'>(),
      scenario: z.string(),
      outcome: z.enum(['failed', 'blocked']),
      seen: z.string(),
      by: z.string(),
      isByRunner: z.boolean(),
      at: momentSchema,
    }),
  ),
});
export type StepTriesView = z.infer<typeof stepTriesSchema>;
