import { z } from 'zod';
import { STEP_OUTCOMES } from '@kindred-baton/core/outcomes';
import { MOST_SECONDS, STEP_CHECKS } from '@kindred-baton/core/tests/step-checks';
import { STEP_ACTIONS } from '@kindred-baton/core/tests/step';
import { RUN_BY, VERSION_STATES } from '@kindred-baton/core/tests/version';
import { FIELD_TYPES, toNameKey } from '@kindred-baton/core/values/field';
import { codeSchema, codedSchema, idSchema, momentSchema, nameSchema, namedSchema, prioritySchema } from '../common.ts';

const shortText = z.string().trim().max(500, 'At most 500 characters.');

export const stepSchema = z.object({
  do: z.enum(STEP_ACTIONS),
  target: z.string().trim().min(1, 'Say what the step is done to.').max(2_000, 'At most 2,000 characters.'),
  within: shortText.optional(),
  beside: shortText.optional(),
  value: z.string().max(2_000).optional(),
  check: z.enum(STEP_CHECKS).optional(),
  seconds: z.int().min(1).max(MOST_SECONDS).optional(),
  expect: z.string().max(2_000).optional(),
  keepAs: shortText.optional(),
  optional: z.boolean().optional(),
  as: shortText.optional(),
});

export const fieldSchema = z.object({
  name: z.string().trim().min(1, 'Give the value a name.').max(100),
  type: z.enum(FIELD_TYPES),
  choices: z.array(z.string().trim().min(1)).max(200).optional(),
  pattern: z.string().max(100).optional(),
  required: z.boolean().optional(),
  example: z.string().max(500).optional(),
});

export const dataRowSchema = z.object({ name: nameSchema, as: shortText.optional(), values: z.record(z.string(), z.string().max(2_000)) });

const uniqueNames = (fields: readonly { name: string }[]) => new Set(fields.map(({ name }) => toNameKey(name))).size === fields.length;

export const testVersionSchema = z.object({
  number: z.int(),
  state: z.enum(VERSION_STATES),
  revision: z.int(),
  steps: z.array(stepSchema),
  needs: z.array(fieldSchema),
  gives: z.array(fieldSchema),
  rows: z.array(dataRowSchema),
  savedBy: z.string().nullable(),
  savedAt: momentSchema,
});
export type TestVersionView = z.infer<typeof testVersionSchema>;

export const testDetailSchema = z.object({
  id: idSchema<'test'>(),
  code: z.string(),
  name: z.string(),
  priority: prioritySchema,
  runBy: z.enum(RUN_BY),
  tags: z.array(z.string()),
  minutes: z.int(),
  path: z.array(z.object({ code: z.string(), name: z.string() })),
  team: namedSchema.nullable(),
  application: namedSchema.nullable(),
  versions: z.array(z.object({ number: z.int(), state: z.enum(VERSION_STATES) })),
  version: testVersionSchema,
  usedIn: z.array(codedSchema),
  attempts: z.array(z.object({ outcome: z.enum(STEP_OUTCOMES), at: momentSchema, by: z.string(), turnId: idSchema<'turn'>() })),
});
export type TestDetail = z.infer<typeof testDetailSchema>;

export const createTestSchema = z.object({
  /** Nothing: the next free one. */
  code: z.union([codeSchema, z.literal('')]),
  name: nameSchema,
  node: codeSchema,
  teamId: idSchema<'team'>().nullable(),
  applicationId: idSchema<'application'>().nullable(),
});
export type CreateTest = z.infer<typeof createTestSchema>;

export const saveTestSchema = z.object({
  /** The version and revision that the editor began from; another one meanwhile is a conflict. */
  base: z.object({ number: z.int(), revision: z.int() }),
  name: nameSchema,
  minutes: z.int('Give whole minutes.').min(1, 'At least one minute.').max(10_000),
  steps: z.array(stepSchema).max(500, 'A test has at most 500 steps.'),
  needs: z.array(fieldSchema).refine(uniqueNames, 'Two needs have the same name.'),
  gives: z.array(fieldSchema).refine(uniqueNames, 'Two outputs have the same name.'),
  rows: z.array(dataRowSchema).max(1_000),
});
export type SaveTest = z.infer<typeof saveTestSchema>;

const waiverSchema = z.object({ rule: z.string(), about: z.string(), note: z.string(), by: z.string(), at: momentSchema });
export type WaiverView = z.infer<typeof waiverSchema>;

/** What the editor knows around a test: for findings, for completion, and where which version is pinned. */
export const testSurroundingsSchema = z.object({
  reached: z.int().nullable(),
  neededElsewhere: z.array(z.string()),
  sharedOpening: z.object({ length: z.int(), tests: z.array(z.string()), count: z.int() }).nullable(),
  waivers: z.array(waiverSchema),
  targets: z.array(z.string()),
  names: z.array(z.string()),
  /** Values that other tests need or give, each as most of them have it. */
  fields: z.array(fieldSchema),
  personas: z.array(z.string()),
  pinned: z.array(
    z.object({
      cycle: codedSchema,
      version: z.int(),
      turns: z.int(),
      /** Turns that nobody has begun, which could take the newest agreed version over. */
      notBegun: z.int(),
    }),
  ),
});
export type TestSurroundings = z.infer<typeof testSurroundingsSchema>;

export const waiveSchema = z.object({
  rule: z.string().min(1).max(100),
  about: z.string().min(1).max(2_500),
  /** Null takes the waiver back. */
  note: z.string().trim().min(1, 'Say why it may stay.').max(500).nullable(),
});
export type Waive = z.infer<typeof waiveSchema>;

export const takeNewerSchema = z.object({ cycle: codeSchema });

export const agreeTestSchema = z.object({ number: z.int(), revision: z.int() });
