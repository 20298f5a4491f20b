/** Machines that do turns. A pool is a member of the programme without a sign-in: turns are given to it as they are to people. */
import { sql } from 'drizzle-orm';
import { check, index, integer, pgEnum, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { RunnerId } from '@kindred-baton/core/ids';
import { RUNNER_ORDERS } from '@kindred-baton/core/runners/runner';
import { createdAt, moment, personRef, programmeRef } from './columns.ts';
import { people } from './people.ts';
import { programmes } from './programmes.ts';

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
