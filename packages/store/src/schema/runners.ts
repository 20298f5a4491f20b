/** Machines that do turns. A pool is a member of the programme without a sign-in: turns are given to it as they are to people. */
import { sql } from 'drizzle-orm';
import { check, index, integer, jsonb, pgEnum, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { EnvironmentId, PersonaId, RunnerId, TrialId } from '@kindred-baton/core/ids';
import type { StepOutcome } from '@kindred-baton/core/outcomes';
import { RUNNER_ORDERS } from '@kindred-baton/core/runners/runner';
import type { Step } from '@kindred-baton/core/tests/step';
import type { Field } from '@kindred-baton/core/values/field';
import { bytes } from './bytes.ts';
import { createdAt, moment, personRef, programmeRef, testRef } from './columns.ts';
import { people } from './people.ts';
import { personas } from './personas.ts';
import { environments, programmes } from './programmes.ts';
import { tests } from './tests.ts';

export const runnerOrder = pgEnum('runner_order', RUNNER_ORDERS);

export const pools = pgTable(
  'pools',
  {
    /** Of the person that the pool is. */
    id: personRef()
      .primaryKey()
      .references(() => people.id),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    /** When its runners take turns, by the programme's clock: ISO weekdays, and minutes since midnight. */
    days: integer().array().notNull(),
    opensAt: integer().notNull(),
    closesAt: integer().notNull(),
  },
  (table) => [
    index().on(table.programmeId),
    check('pools_hours', sql`${table.opensAt} >= 0 and ${table.opensAt} < ${table.closesAt} and ${table.closesAt} <= 1440`),
    check('pools_days', sql`cardinality(${table.days}) > 0 and ${table.days} <@ array[1, 2, 3, 4, 5, 6, 7]`),
  ],
);

export const runners = pgTable(
  'runners',
  {
    id: uuid().$type<RunnerId>().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    poolId: personRef()
      .notNull()
      .references(() => pools.id),
    name: text().notNull(),
    /** Its token is shown once; of it only this is kept. null: withdrawn. */
    tokenHash: text().unique(),
    addedBy: personRef()
      .notNull()
      .references(() => people.id),
    addedAt: createdAt(),
    order: runnerOrder().notNull().default('work'),
    /** What it said of itself when it was last heard of. */
    heardAt: moment(),
    instance: uuid(),
    machine: text().notNull().default(''),
    sessions: integer().notNull().default(0),
    /** Why it takes nothing at the moment, as it says itself. */
    problem: text().notNull().default(''),
  },
  (table) => [index().on(table.poolId), check('runners_sessions', sql`${table.sessions} between 0 and 64`)],
);

export type PoolRow = typeof pools.$inferSelect;
export type RunnerRow = typeof runners.$inferSelect;

/** Steps of a test that a runner tries for its author: shown to whoever asked, counted nowhere, gone after some days. */
export const trials = pgTable(
  'trials',
  {
    id: uuid().$type<TrialId>().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    testId: testRef()
      .notNull()
      .references(() => tests.id, { onDelete: 'cascade' }),
    environmentId: uuid()
      .$type<EnvironmentId>()
      .notNull()
      .references(() => environments.id, { onDelete: 'cascade' }),
    /** null: whoever is the usual one of the application. */
    personaId: uuid()
      .$type<PersonaId>()
      .references(() => personas.id, { onDelete: 'set null' }),
    steps: jsonb().$type<readonly Step[]>().notNull(),
    gives: jsonb().$type<readonly Field[]>().notNull(),
    values: jsonb().$type<Readonly<Record<string, string>>>().notNull(),
    askedBy: personRef()
      .notNull()
      .references(() => people.id),
    askedAt: createdAt(),
    runnerId: uuid()
      .$type<RunnerId>()
      .references(() => runners.id),
    takenAt: moment(),
    /** Until then its runner is believed to be at it. */
    expiresAt: moment(),
    finishedAt: moment(),
    /** What came of each step, in order. */
    results: jsonb().$type<readonly TrialResult[]>().notNull().default([]),
    /** The screen at which it ended. */
    picture: bytes(),
  },
  (table) => [
    index().on(table.programmeId, table.askedAt),
    index('trials_waiting')
      .on(table.programmeId)
      .where(sql`${table.runnerId} is null and ${table.finishedAt} is null`),
  ],
);

export interface TrialResult {
  readonly outcome: StepOutcome;
  readonly note: string;
  readonly expected: string;
  readonly actual: string;
  readonly unlooked: string;
  readonly tookMs: number;
  /** What was kept, if anything. */
  readonly kept: string | null;
}
