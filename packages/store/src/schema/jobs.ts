import { sql } from 'drizzle-orm';
import { check, index, integer, jsonb, pgEnum, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { JobId } from '@kindred-baton/core/ids';
import { JOB_STATES } from '@kindred-baton/core/jobs/job';
import { bytes } from './bytes.ts';
import { createdAt, moment, personRef, programmeRef } from './columns.ts';
import { people } from './people.ts';
import { programmes } from './programmes.ts';

export const jobState = pgEnum('job_state', JOB_STATES);

/** Work that takes a while: how far it is, and what came out. */
export const jobs = pgTable(
  'jobs',
  {
    id: uuid().$type<JobId>().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    personId: personRef()
      .notNull()
      .references(() => people.id),
    kind: text().notNull(),
    input: jsonb().$type<Record<string, unknown>>().notNull(),
    state: jobState().notNull().default('waiting'),
    done: integer().notNull().default(0),
    total: integer().notNull().default(0),
    message: text(),
    fileName: text(),
    mediaType: text(),
    content: bytes(),
    createdAt: createdAt(),
    endedAt: moment(),
  },
  (table) => [index().on(table.programmeId, table.createdAt), check('jobs_progress', sql`${table.done} >= 0`)],
);

export type JobRow = typeof jobs.$inferSelect;
