import { z } from 'zod';
import { SCENARIO_STATES } from '@kindred-baton/core/scenarios/scenario';
import { TURN_STATUSES } from '@kindred-baton/core/turns/turn';
import { VERSION_STATES } from '@kindred-baton/core/tests/version';
import { codeSchema, codedSchema, idSchema, momentSchema, nameSchema, namedSchema, prioritySchema } from '../common.ts';
import { fieldSchema } from '../tests/test.ts';

export const wireSchema = z.object({
  need: z.string().trim().min(1).max(100),
  from: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('leg'), leg: idSchema<'leg'>(), gives: z.string().min(1).max(100) }),
    z.object({ kind: z.literal('column'), column: z.string().min(1).max(100) }),
    z.object({ kind: z.literal('fixed'), value: z.string().max(2_000) }),
    z.object({ kind: z.literal('new'), pattern: z.string().min(1).max(100) }),
  ]),
});

export const scenarioListSchema = z.object({
  scenarios: z.array(
    codedSchema.extend({
      node: z.object({ code: z.string(), name: z.string() }),
      state: z.enum(SCENARIO_STATES),
      priority: prioritySchema,
      legs: z.int(),
      openLegs: z.int(),
      rows: z.int(),
      teams: z.array(z.string()),
      errors: z.int(),
      warnings: z.int(),
    }),
  ),
});
export type ScenarioList = z.infer<typeof scenarioListSchema>;
export type ScenarioListItem = ScenarioList['scenarios'][number];

export const legSchema = z.object({
  id: idSchema<'leg'>(),
  title: z.string(),
  test: z.object({ code: z.string(), version: z.int(), state: z.enum(VERSION_STATES), steps: z.int(), minutes: z.int() }).nullable(),
  team: namedSchema.nullable(),
  needs: z.array(fieldSchema),
  gives: z.array(fieldSchema),
  ownValues: z.record(z.string(), z.string()),
  after: z.array(idSchema<'leg'>()).nullable(),
  wires: z.array(wireSchema),
  waitDays: z.int(),
  place: z.object({ parent: z.string(), order: z.int() }).nullable(),
});
export type LegDetail = z.infer<typeof legSchema>;

export const scenarioRowSchema = z.object({ id: idSchema<'scenarioRow'>(), name: z.string(), values: z.record(z.string(), z.string()) });

export const scenarioDetailSchema = z.object({
  id: idSchema<'scenario'>(),
  code: z.string(),
  name: z.string(),
  state: z.enum(SCENARIO_STATES),
  path: z.array(z.object({ code: z.string(), name: z.string() })),
  columns: z.array(fieldSchema),
  rows: z.array(scenarioRowSchema),
  legs: z.array(legSchema),
  isInOpenCycle: z.boolean(),
  runs: z.array(z.object({ id: idSchema<'run'>(), label: z.string(), rowName: z.string().nullable(), cycle: z.string() })),
});
export type ScenarioDetail = z.infer<typeof scenarioDetailSchema>;

/** One run laid over the relay. */
export const runOverlaySchema = z.object({
  id: idSchema<'run'>(),
  cycle: z.object({ code: z.string(), name: z.string() }),
  rowName: z.string().nullable(),
  turns: z.array(
    z.object({
      id: idSchema<'turn'>(),
      index: z.int(),
      legId: idSchema<'leg'>().nullable(),
      title: z.string(),
      status: z.enum(TURN_STATUSES),
      assignee: z.string().nullable(),
      latest: z
        .object({ outcome: z.string(), by: z.string(), at: momentSchema, note: z.string(), step: z.int().nullable(), steps: z.int() })
        .nullable(),
    }),
  ),
  baton: z.array(z.object({ name: z.string(), value: z.string(), index: z.int() })),
});
export type RunOverlay = z.infer<typeof runOverlaySchema>;

export const createScenarioSchema = z.object({ code: codeSchema, name: nameSchema, node: codeSchema });
export type CreateScenario = z.infer<typeof createScenarioSchema>;

export const changeScenarioSchema = z
  .object({
    name: nameSchema,
    state: z.enum(SCENARIO_STATES),
    columns: z.array(fieldSchema).max(100),
    rows: z
      .array(z.object({ id: idSchema<'scenarioRow'>().optional(), name: nameSchema, values: z.record(z.string(), z.string().max(2_000)) }))
      .max(500),
  })
  .partial();
export type ChangeScenario = z.infer<typeof changeScenarioSchema>;

/** Legs are placed before a leg (null: at the end), so that two people's edits join instead of clashing. */
export const addLegSchema = z
  .object({
    id: idSchema<'leg'>(),
    before: idSchema<'leg'>().nullable(),
    test: codeSchema.nullable(),
    title: z.string().trim().max(200).optional(),
    teamId: idSchema<'team'>().nullable().optional(),
  })
  .refine((leg) => leg.test !== null || (leg.title ?? '') !== '', {
    message: 'Say in words what this open leg is to test.',
    path: ['title'],
  });
export type AddLeg = z.infer<typeof addLegSchema>;

export const changeLegSchema = z
  .object({
    before: idSchema<'leg'>().nullable(),
    test: codeSchema.nullable(),
    title: z.string().trim().min(1).max(200),
    teamId: idSchema<'team'>().nullable(),
    after: z.array(idSchema<'leg'>()).max(200).nullable(),
    wires: z.array(wireSchema).max(200),
    waitDays: z.int().min(0).max(366),
  })
  .partial();
export type ChangeLeg = z.infer<typeof changeLegSchema>;
