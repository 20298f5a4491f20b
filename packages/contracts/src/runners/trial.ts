import { z } from 'zod';
import { STEP_OUTCOMES } from '@kindred-baton/core/outcomes';
import { idSchema, momentSchema } from '../common.ts';
import { fieldSchema, stepSchema } from '../tests/test.ts';

/** What a runner is asked to try: the steps as they stand in the editor, saved or not. */
export const askTrialSchema = z.object({
  id: idSchema<'trial'>(),
  testId: idSchema<'test'>(),
  environmentId: idSchema<'environment'>(),
  /** null: whoever is the usual one. */
  personaId: idSchema<'persona'>().nullable(),
  steps: z.array(stepSchema).min(1, 'There are no steps to try.').max(200),
  gives: z.array(fieldSchema).max(200),
  values: z.record(z.string().max(100), z.string().max(2_000)),
});
export type AskTrial = z.infer<typeof askTrialSchema>;

const resultSchema = z.object({
  outcome: z.enum(STEP_OUTCOMES),
  note: z.string().max(10_000),
  expected: z.string().max(10_000),
  actual: z.string().max(10_000),
  unlooked: z.string().max(10_000),
  tookMs: z.int().min(0),
  kept: z.string().max(2_000).nullable(),
});
export type TrialResult = z.infer<typeof resultSchema>;

/** A runner tells a step, with the screen as it is then, as JPEG in base64. */
export const recordTrialSchema = resultSchema.extend({ picture: z.string().max(4_000_000).optional() });

const TRIAL_STATES = ['waiting', 'under way', 'ended', 'stopped', 'broken off'] as const;

export const trialSchema = z.object({
  id: idSchema<'trial'>(),
  state: z.enum(TRIAL_STATES),
  steps: z.array(stepSchema),
  results: z.array(resultSchema),
  environment: z.string(),
  runner: z.string().nullable(),
  askedAt: momentSchema,
  hasPicture: z.boolean(),
  /** Whether a runner is heard of that takes what is asked for. */
  isHeard: z.boolean(),
});
export type TrialView = z.infer<typeof trialSchema>;
