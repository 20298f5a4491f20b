import { z } from 'zod';
import { TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { idSchema, packedRowsSchema, prioritySchema } from '../common.ts';

/** A cycle as a project (core: cycles/plan), with the names to show it by. Times are minutes since midnight of `firstDay`. */
const cyclePlanSchema = z.object({
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
  /** Runners, with so many sessions as they have by now. */
  pools: z.array(
    z.object({
      id: idSchema<'person'>(),
      name: z.string(),
      sessions: z.int(),
      minutesByDay: z.array(z.number()),
      startsAt: z.number(),
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
      /** With a pool: what its runners usually take. */
      minutes: z.int(),
      status: z.enum(TURN_STATUSES),
      dueOn: z.string().nullable(),
      /** The day on which it was done. */
      doneOn: z.string().nullable(),
      /** Who made the attempt that it was done with. */
      doneBy: z.string().nullable(),
      after: z.array(z.int()),
      waitDays: z.int(),
      samePersonAs: z.int().nullable(),
      otherPersonThan: z.array(z.int()),
    }),
  ),
});
export type CyclePlanView = z.infer<typeof cyclePlanSchema>;

/** The same with its turns by columns (core: tables/pack-rows), which are a quarter of it then. */
export const packedPlanSchema = cyclePlanSchema.omit({ turns: true }).extend({ turns: packedRowsSchema });
export type PackedPlan = z.infer<typeof packedPlanSchema>;
export type PlanTurn = CyclePlanView['turns'][number];

/** A change of a plan that can be kept; “one more tester” is kept once it is said who (core: cycles/plan/plan-changes). */
const planChangeSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('move person'), person: idSchema<'person'>(), lane: idSchema<'team'>() }),
  z.object({ kind: z.literal('join lane'), person: idSchema<'person'>(), lane: idSchema<'team'>() }),
  z.object({ kind: z.literal('more hours'), lane: idSchema<'team'>(), minutes: z.int().min(1).max(1_440) }),
  z.object({ kind: z.literal('share'), lane: idSchema<'team'>() }),
  z.object({ kind: z.literal('leave out'), runs: z.array(idSchema<'run'>()).min(1).max(10_000) }),
]);
export type KeptPlanChange = z.infer<typeof planChangeSchema>;

const ASSIGN_WAYS = ['balanced', 'same person', 'four eyes'] as const;

export const staffCycleSchema = z.discriminatedUnion('kind', [
  /** Gives turns to one person, or takes them from everybody. */
  z.object({
    kind: z.literal('give'),
    turns: z.array(idSchema<'turn'>()).min(1, 'Choose at least one turn.').max(10_000),
    personId: idSchema<'person'>().nullable(),
  }),
  /** Gives what has not begun to a pool: what is done by runners, or all that no step keeps with people. */
  z.object({ kind: z.literal('to runners'), poolId: idSchema<'person'>(), which: z.enum(['done by runners', 'all']) }),
  /** Gives out what has not begun, of these teams or of all. */
  z.object({ kind: z.literal('assign'), way: z.enum(ASSIGN_WAYS), teams: z.array(z.uuid()).nullable() }),
  /** Keeps what was tried (people, hours, what is left out), and the plan with it: who does what, and by when. */
  z.object({ kind: z.literal('keep plan'), changes: z.array(planChangeSchema).max(100), why: z.string().trim().max(2_000).default('') }),
]);
export type StaffCycle = z.infer<typeof staffCycleSchema>;

/** How many changed hands, how many are with nobody, and how many that were asked for stay with people. */
export const staffedSchema = z.object({ changed: z.int(), left: z.int(), stay: z.int() });
export type Staffed = z.infer<typeof staffedSchema>;
