import { sql } from 'drizzle-orm';
import { check, date, index, integer, jsonb, pgEnum, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { DefectLink } from '@kindred-baton/core/defects/defect';
import { DEFECT_KINDS, DEFECT_STATUSES, SEVERITIES } from '@kindred-baton/core/defects/defect';
import type { AttemptId, DefectId, DefectWordId } from '@kindred-baton/core/ids';
import { createdAt, cycleRef, inProgramme, nodeRef, personRef, programmeRef, teamRef, turnRef } from './columns.ts';
import { cycles } from './cycles.ts';
import { nodes } from './map.ts';
import { priority } from './priority.ts';
import { people } from './people.ts';
import { programmes, teams } from './programmes.ts';
import { attempts, turns } from './turns.ts';

export const defectStatus = pgEnum('defect_status', DEFECT_STATUSES);
export const defectKind = pgEnum('defect_kind', DEFECT_KINDS);
export const severity = pgEnum('severity', SEVERITIES);

export const defects = pgTable(
  'defects',
  {
    id: uuid().$type<DefectId>().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    number: integer().notNull(),
    code: text().notNull(),
    title: text().notNull(),
    kind: defectKind().notNull(),
    severity: severity().notNull(),
    priority: priority().notNull(),
    status: defectStatus().notNull().default('new'),
    teamId: teamRef().references(() => teams.id),
    cycleId: cycleRef()
      .notNull()
      .references(() => cycles.id),
    attemptId: uuid()
      .$type<AttemptId>()
      .references(() => attempts.id),
    /** Where it was seen, if at no turn; else its turns say it. */
    nodeId: nodeRef().references(() => nodes.id, { onDelete: 'set null' }),
    stepIndex: integer().notNull(),
    expected: text().notNull(),
    seen: text().notNull(),
    /** The numbered steps up to the failing one, with the values used, as they were. */
    steps: jsonb().$type<string[]>().notNull(),
    environment: text().notNull(),
    browser: text().notNull(),
    persona: text().notNull().default(''),
    assigneeId: personRef().references(() => people.id),
    dueOn: date({ mode: 'string' }),
    links: jsonb().$type<DefectLink[]>().notNull().default([]),
    reason: text().notNull().default(''),
    foundBy: personRef()
      .notNull()
      .references(() => people.id),
    foundAt: createdAt(),
    changedAt: createdAt(),
  },
  (table) => [
    unique().on(table.programmeId, table.number),
    index().on(table.cycleId, table.status),
    check('defects_title', sql`${table.title} <> ''`),
    check('defects_declined', sql`${table.status} <> 'declined' or ${table.reason} <> ''`),
  ],
);

/** The turns that a defect keeps failed or blocked. */
export const defectTurns = pgTable(
  'defect_turns',
  {
    programmeId: inProgramme().references(() => programmes.id),
    defectId: uuid()
      .$type<DefectId>()
      .notNull()
      .references(() => defects.id),
    turnId: turnRef()
      .notNull()
      .references(() => turns.id),
    /** The turn's newest finished attempt when the defect was last said to be fixed: what comes after it is the retest. */
    retestAfter: integer(),
  },
  (table) => [primaryKey({ columns: [table.defectId, table.turnId] }), index().on(table.turnId)],
);

/** What people say about a defect. */
export const defectWords = pgTable(
  'defect_words',
  {
    programmeId: inProgramme().references(() => programmes.id),
    id: uuid().$type<DefectWordId>().primaryKey(),
    defectId: uuid()
      .$type<DefectId>()
      .notNull()
      .references(() => defects.id),
    personId: personRef()
      .notNull()
      .references(() => people.id),
    text: text().notNull(),
    at: createdAt(),
  },
  (table) => [index().on(table.defectId, table.at), check('defect_words_text', sql`${table.text} <> ''`)],
);

export type DefectRow = typeof defects.$inferSelect;
