import { z } from 'zod';
import { CYCLE_PURPOSES, CYCLE_STATES, SIGN_OFF_DECISIONS } from '@kindred-baton/core/cycles/cycle';
import { TURN_STATUSES } from '@kindred-baton/core/turns/turn';
import { codeSchema, codedSchema, countsSchema, daySchema, idSchema, momentSchema, nameSchema, personSchema } from '../common.ts';

export const cycleListSchema = z.object({
  cycles: z.array(
    codedSchema.extend({
      state: z.enum(CYCLE_STATES),
      purpose: z.enum(CYCLE_PURPOSES),
      environment: z.string(),
      startsOn: z.string(),
      endsOn: z.string(),
      runs: z.int(),
      counts: countsSchema,
    }),
  ),
});
export type CycleList = z.infer<typeof cycleListSchema>;

export const cycleDetailSchema = z.object({
  id: idSchema<'cycle'>(),
  code: z.string(),
  name: z.string(),
  state: z.enum(CYCLE_STATES),
  purpose: z.enum(CYCLE_PURPOSES),
  environment: z.string(),
  owner: z.string().nullable(),
  startsOn: z.string(),
  endsOn: z.string(),
  counts: countsSchema,
  runs: z.array(
    z.object({
      id: idSchema<'run'>(),
      number: z.int(),
      scenario: codedSchema,
      rowName: z.string().nullable(),
      turns: z.array(
        z.object({
          id: idSchema<'turn'>(),
          title: z.string(),
          status: z.enum(TURN_STATUSES),
          team: z.string(),
          assignee: z.string().nullable(),
        }),
      ),
    }),
  ),
  lanes: z.array(
    z.object({
      team: z.string(),
      turns: z.int(),
      minutes: z.int(),
      minutesLeft: z.int(),
      hoursPerDay: z.number(),
      counts: countsSchema,
      people: z.array(personSchema.extend({ turns: z.int(), minutes: z.int(), minutesLeft: z.int() })),
    }),
  ),
  /** What keeps it from being opened, while it is planned. */
  obstacles: z.array(z.object({ scenario: z.string(), message: z.string() })),
  signOffs: z.array(
    z.object({
      node: z.object({ code: z.string(), name: z.string() }),
      decision: z.enum(SIGN_OFF_DECISIONS),
      reason: z.string(),
      by: z.string(),
      at: momentSchema,
      counts: countsSchema,
    }),
  ),
});
export type CycleDetail = z.infer<typeof cycleDetailSchema>;

/** What can be taken into a cycle. */
export const cycleScopeSchema = z.object({
  scenarios: z.array(
    codedSchema.extend({
      node: z.object({ code: z.string(), name: z.string() }),
      legs: z.int(),
      openLegs: z.int(),
      errors: z.int(),
      minutes: z.int(),
      rows: z.array(z.object({ id: idSchema<'scenarioRow'>(), name: z.string() })),
    }),
  ),
  suggestedCode: z.string(),
});
export type CycleScope = z.infer<typeof cycleScopeSchema>;

export const createCycleSchema = z
  .object({
    code: codeSchema,
    name: nameSchema,
    purpose: z.enum(CYCLE_PURPOSES),
    environmentId: idSchema<'environment'>(),
    startsOn: daySchema,
    endsOn: daySchema,
    scope: z
      .array(z.object({ scenarioId: idSchema<'scenario'>(), rowIds: z.array(idSchema<'scenarioRow'>()) }))
      .min(1, 'Choose at least one scenario.'),
  })
  .refine((cycle) => cycle.startsOn <= cycle.endsOn, { message: 'The end is before the start.', path: ['endsOn'] });
export type CreateCycle = z.infer<typeof createCycleSchema>;

export const moveCycleSchema = z.object({ from: z.enum(CYCLE_STATES), to: z.enum(CYCLE_STATES) });
