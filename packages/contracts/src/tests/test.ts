import { z } from 'zod';
import { STEP_OUTCOMES } from '@kindred-baton/core/outcomes';
import { STEP_ACTIONS } from '@kindred-baton/core/tests/step';
import { VERSION_STATES } from '@kindred-baton/core/tests/version';
import { FIELD_TYPES, toNameKey } from '@kindred-baton/core/values/field';
import { TURN_STATUSES } from '@kindred-baton/core/turns/turn';
import { codeSchema, codedSchema, idSchema, momentSchema, nameSchema, namedSchema, prioritySchema } from '../common.ts';

const shortText = z.string().trim().max(500, 'At most 500 characters.');

export const stepSchema = z.object({
  do: z.enum(STEP_ACTIONS),
  target: shortText.min(1, 'Say what the step is done to.'),
  within: shortText.optional(),
  beside: shortText.optional(),
  value: z.string().max(2_000).optional(),
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

export const dataRowSchema = z.object({ name: nameSchema, values: z.record(z.string(), z.string().max(2_000)) });

const uniqueNames = (fields: readonly { name: string }[]) => new Set(fields.map(({ name }) => toNameKey(name))).size === fields.length;

export const testListSchema = z.object({
  tests: z.array(
    codedSchema.extend({
      node: z.object({ code: z.string(), name: z.string() }),
      team: z.string().nullable(),
      application: z.string().nullable(),
      version: z.int(),
      state: z.enum(VERSION_STATES),
      minutes: z.int(),
      usedIn: z.int(),
      status: z.enum(TURN_STATUSES).nullable(),
    }),
  ),
});
export type TestList = z.infer<typeof testListSchema>;
export type TestListItem = TestList['tests'][number];

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
  code: codeSchema,
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

export const agreeTestSchema = z.object({ number: z.int(), revision: z.int() });
