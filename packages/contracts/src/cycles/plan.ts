import { z } from 'zod';
import { TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { idSchema, prioritySchema } from '../common.ts';

/** A cycle as a project (core: cycles/plan), with the names to show it by. Times are minutes since midnight of `firstDay`. */
export const cyclePlanSchema = z.object({
  firstDay: z.string(),
  startsOn: z.string(),
  endsOn: z.string(),
  startsAt: z.number(),
  endsAt: z.number(),
  teams: z.array(
    z.object({ id: z.string(), name: z.string(), hoursPerDay: z.number(), minutesByDay: z.array(z.number()), startsAt: z.number() }),
  ),
  people: z.array(
    z.object({
      id: idSchema<'person'>(),
      name: z.string(),
      teams: z.array(z.string()),
      minutesByDay: z.array(z.number()),
      startsAt: z.number(),
      /** Days on which she is not there, from the cycle's first day on. */
      absences: z.array(z.object({ firstDay: z.string(), lastDay: z.string(), note: z.string() })),
    }),
  ),
  runs: z.array(z.object({ id: idSchema<'run'>(), number: z.int(), scenario: z.string(), name: z.string(), priority: prioritySchema })),
  /** Every turn of the cycle, also those that are done. */
  turns: z.array(
    z.object({
      id: idSchema<'turn'>(),
      run: idSchema<'run'>(),
      index: z.int(),
      title: z.string(),
      team: z.string(),
      person: z.string().nullable(),
      minutes: z.int(),
      status: z.enum(TURN_STATUSES),
      dueOn: z.string().nullable(),
      /** The day on which it was done. */
      doneOn: z.string().nullable(),
      after: z.array(z.int()),
      waitDays: z.int(),
      samePersonAs: z.int().nullable(),
      otherPersonThan: z.array(z.int()),
    }),
  ),
});
export type CyclePlanView = z.infer<typeof cyclePlanSchema>;
export type PlanTurn = CyclePlanView['turns'][number];

const ASSIGN_WAYS = ['balanced', 'same person', 'four eyes'] as const;

export const staffCycleSchema = z.discriminatedUnion('kind', [
  /** Gives turns to one person, or takes them from everybody. */
  z.object({
    kind: z.literal('give'),
    turns: z.array(idSchema<'turn'>()).min(1, 'Choose at least one turn.').max(10_000),
    personId: idSchema<'person'>().nullable(),
  }),
  /** Gives out what has not begun, of these teams or of all. */
  z.object({ kind: z.literal('assign'), way: z.enum(ASSIGN_WAYS), teams: z.array(z.uuid()).nullable() }),
  /** Keeps the plan: who does what, and by when. `share`: lanes whose turns go to whoever is free first. */
  z.object({ kind: z.literal('keep plan'), share: z.array(z.uuid()) }),
]);
export type StaffCycle = z.infer<typeof staffCycleSchema>;

export const staffedSchema = z.object({ changed: z.int(), left: z.int() });
export type Staffed = z.infer<typeof staffedSchema>;
