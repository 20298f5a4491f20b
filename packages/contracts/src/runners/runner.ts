import { z } from 'zod';
import { DOOR_KINDS, DOOR_SIGN_INS } from '@kindred-baton/core/doors/door';
import { RUNNER_ORDERS } from '@kindred-baton/core/runners/runner';
import { STEP_OUTCOMES } from '@kindred-baton/core/outcomes';
import { TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { idSchema, momentSchema, nameSchema } from '../common.ts';
import { fieldSchema, stepSchema } from '../tests/test.ts';

export const poolSchema = z
  .object({
    name: nameSchema,
    /** ISO weekdays. */
    days: z.array(z.int().min(1).max(7)).min(1, 'Choose at least one day.').max(7),
    /** Minutes since midnight. */
    opensAt: z.int().min(0).max(1_439),
    closesAt: z.int().min(2).max(1_440),
  })
  .refine(({ opensAt, closesAt }) => opensAt < closesAt, { message: 'A pool opens before it closes.', path: ['closesAt'] });
export type SavePool = z.infer<typeof poolSchema>;

export const addRunnerSchema = z.object({ poolId: idSchema<'person'>(), name: nameSchema });
export const runnerAddedSchema = z.object({
  id: idSchema<'runner'>(),
  /** Shown this once. */
  token: z.string(),
});
export const orderRunnerSchema = z.object({ order: z.enum(RUNNER_ORDERS) });

/** What a runner says of itself, with everything that it asks. */
const aboutSchema = z.object({
  /** Minted by its process: two with one token are told apart. */
  instance: z.uuid(),
  machine: z.string().max(200),
  sessions: z.int().min(0).max(64),
});

export const heardSchema = aboutSchema.extend({
  /** All that it does; an attempt of its own that is not named here is lost to it. */
  working: z.array(z.object({ attempt: idSchema<'attempt'>(), step: z.int().min(0) })).max(64),
  problem: z.string().max(2_000),
});
export type Heard = z.infer<typeof heardSchema>;

export const ordersSchema = z.object({
  order: z.enum(RUNNER_ORDERS),
  /** Attempts of its own that are its no longer: it ends them. */
  stop: z.array(idSchema<'attempt'>()),
});
export type Orders = z.infer<typeof ordersSchema>;

export const askWorkSchema = aboutSchema.extend({ waitSeconds: z.number().min(0).max(50) });

/** A turn as a runner is given it: all that it needs, and nothing else. */
const workSchema = z.object({
  /** Under which its words go out: of an attempt, or of a trial. */
  attempt: idSchema<'attempt'>(),
  /** Tried for an author, and counted nowhere. */
  isTrial: z.boolean(),
  turn: idSchema<'turn'>().nullable(),
  title: z.string(),
  test: z.string().nullable(),
  cycle: z.string().nullable(),
  steps: z.array(stepSchema),
  gives: z.array(fieldSchema),
  values: z.record(z.string(), z.string()),
  /** Goes on at this step; the application is brought there by those before it. */
  fromStep: z.int(),
  /** What was kept before. */
  kept: z.record(z.string(), z.string()),
  seed: z.uuid(),
  day: z.string(),
  workingDays: z.array(z.int()),
  holidays: z.array(z.string()),
  environment: z.string(),
  applications: z.array(z.object({ name: z.string(), address: z.string() })),
  /** Whoever it is that nothing is said of; null: no account is set. */
  account: z.string().nullable(),
  accounts: z.array(z.object({ persona: z.string(), application: z.string(), user: z.string(), password: z.string() })),
  /** Those that its steps may ask. */
  doors: z.array(
    z.object({
      name: z.string(),
      kind: z.enum(DOOR_KINDS),
      address: z.string(),
      signIn: z.enum(DOOR_SIGN_INS),
      user: z.string(),
      secret: z.string(),
    }),
  ),
  pictures: z.enum(['each step', 'failed steps', 'none']),
});
export type Work = z.infer<typeof workSchema>;

export const workAnswerSchema = z.object({ work: workSchema.nullable(), order: z.enum(RUNNER_ORDERS) });

/** What a runner does now. */
const runsNowSchema = z.object({
  attempt: idSchema<'attempt'>(),
  turn: idSchema<'turn'>(),
  title: z.string(),
  test: z.string().nullable(),
  run: z.string(),
  step: z.int(),
  steps: z.int(),
  outcomes: z.array(z.enum(STEP_OUTCOMES).nullable()),
  /** The newest picture of it. */
  picture: idSchema<'evidence'>().nullable(),
});

const RUNNER_STATES = ['at work', 'idle', 'not heard of', 'never heard of', 'retired'] as const;

export const runnersViewSchema = z.object({
  now: momentSchema,
  pools: z.array(
    z.object({
      id: idSchema<'person'>(),
      name: z.string(),
      days: z.array(z.int()),
      opensAt: z.int(),
      closesAt: z.int(),
      isOpen: z.boolean(),
      /** Sessions of runners that are heard of and take turns. */
      sessions: z.int(),
      /** Turns with the pool that are not through, in the order in which they are handed out. */
      queue: z.array(
        z.object({
          turn: idSchema<'turn'>(),
          title: z.string(),
          run: z.string(),
          cycle: z.string(),
          status: z.enum(TURN_STATUSES),
          kind: z.enum(['under way', 'ready', 'waiting', 'with people']),
          minutes: z.number(),
          session: z.int().nullable(),
          /** By the forecast; null: nobody can say. */
          from: momentSchema.nullable(),
          to: momentSchema.nullable(),
        }),
      ),
      /** How many turns the expected minutes rest on: done by runners before, or nothing but what was planned. */
      known: z.int(),
      /** When all that can be said ends, by how many sessions; null: more than a year ahead. */
      ends: z.array(z.object({ sessions: z.int(), at: momentSchema.nullable() })),
      /** All of the queue, of which the first are listed. */
      total: z.int(),
      ready: z.int(),
      withPeople: z.int(),
      /** With as many sessions as there are turns: no number of them ends sooner. */
      soonest: momentSchema.nullable(),
    }),
  ),
  runners: z.array(
    z.object({
      id: idSchema<'runner'>(),
      name: z.string(),
      pool: idSchema<'person'>(),
      machine: z.string(),
      sessions: z.int(),
      state: z.enum(RUNNER_STATES),
      order: z.enum(RUNNER_ORDERS),
      heardAt: momentSchema.nullable(),
      problem: z.string(),
      now: z.array(runsNowSchema),
    }),
  ),
  /** Turns of runners that ended and wait for somebody: counted apart. */
  toLookAt: z.array(
    z.object({
      ...{ turn: idSchema<'turn'>(), title: z.string(), run: z.string(), cycle: z.string() },
      outcome: z.enum(['failed', 'blocked']),
      words: z.string(),
    }),
  ),
});
export type RunnersView = z.infer<typeof runnersViewSchema>;
