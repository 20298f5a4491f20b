import { sql } from 'drizzle-orm';
import { check, date, index, integer, jsonb, pgEnum, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core';
import { CYCLE_PURPOSES, CYCLE_STATES, SIGN_OFF_DECISIONS } from '@kindred-baton/core/cycles/cycle';
import type { ExitResult } from '@kindred-baton/core/progress/check-exit';
import type { CycleRules } from '@kindred-baton/core/cycles/rules';
import { DEFAULT_RULES } from '@kindred-baton/core/cycles/rules';
import { LEAVING_WAYS } from '@kindred-baton/core/cycles/cycle';
import type { Reservation } from '@kindred-baton/core/cycles/cycle';
import type { NodeDocument } from '@kindred-baton/core/map/node-document';
import type { EnvironmentId, ScenarioRowId } from '@kindred-baton/core/ids';
import { RUN_OUTCOMES } from '@kindred-baton/core/outcomes';
import type { Counts } from '@kindred-baton/core/progress/tally';
import {
  applicationRef,
  createdAt,
  cycleRef,
  inProgramme,
  moment,
  nodeRef,
  personRef,
  position,
  programmeRef,
  runRef,
  scenarioRef,
  teamRef,
} from './columns.ts';
import { nodes } from './map.ts';
import { priority } from './priority.ts';
import { people } from './people.ts';
import { applications, environments, programmes, teams } from './programmes.ts';
import { scenarioRows, scenarios } from './scenarios.ts';

export const cycleState = pgEnum('cycle_state', CYCLE_STATES);
export const cyclePurpose = pgEnum('cycle_purpose', CYCLE_PURPOSES);
export const signOffDecision = pgEnum('sign_off_decision', SIGN_OFF_DECISIONS);
export const leavingWay = pgEnum('leftover_way', LEAVING_WAYS);
export const runOutcome = pgEnum('run_outcome', RUN_OUTCOMES);

export const cycles = pgTable(
  'cycles',
  {
    id: cycleRef().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    code: text().notNull(),
    name: text().notNull(),
    state: cycleState().notNull().default('planning'),
    purpose: cyclePurpose().notNull(),
    environmentId: uuid()
      .$type<EnvironmentId>()
      .notNull()
      .references(() => environments.id),
    ownerId: personRef().references(() => people.id),
    startsOn: date({ mode: 'string' }).notNull(),
    endsOn: date({ mode: 'string' }).notNull(),
    rules: jsonb().$type<CycleRules>().notNull().default(DEFAULT_RULES),
    documents: jsonb().$type<NodeDocument[]>().notNull().default([]),
    openedAt: moment(),
    closedAt: moment(),
    createdAt: createdAt(),
  },
  (table) => [
    unique().on(table.programmeId, table.code),
    check('cycles_dates', sql`${table.startsOn} <= ${table.endsOn}`),
    check('cycles_opened', sql`(${table.state} = 'planning') = (${table.openedAt} is null)`),
    check('cycles_closed', sql`(${table.state} = 'closed') = (${table.closedAt} is not null)`),
  ],
);

export const runs = pgTable(
  'runs',
  {
    programmeId: inProgramme().references(() => programmes.id),
    id: runRef().primaryKey(),
    cycleId: cycleRef()
      .notNull()
      .references(() => cycles.id),
    number: integer().notNull(),
    scenarioId: scenarioRef()
      .notNull()
      .references(() => scenarios.id),
    rowId: uuid()
      .$type<ScenarioRowId>()
      .references(() => scenarioRows.id, { onDelete: 'set null' }),
    rowName: text(),
    values: jsonb().$type<Record<string, string>>().notNull(),
    priority: priority().notNull().default('medium'),
    outcome: runOutcome().notNull().default('not run'),
    position: position(),
    /** How it left the cycle without being through, and why. */
    leftTo: leavingWay(),
    leftReason: text().notNull().default(''),
  },
  (table) => [unique().on(table.cycleId, table.number), index().on(table.scenarioId)],
);

export const signOffs = pgTable(
  'sign_offs',
  {
    programmeId: inProgramme().references(() => programmes.id),
    cycleId: cycleRef()
      .notNull()
      .references(() => cycles.id),
    nodeId: nodeRef()
      .notNull()
      .references(() => nodes.id),
    decision: signOffDecision().notNull(),
    reason: text().notNull().default(''),
    figures: jsonb().$type<Counts>().notNull(),
    /** As they stood, with the open defects; frozen with the decision. */
    criteria: jsonb().$type<ExitResult[]>().notNull().default([]),
    openDefects: text().array().notNull().default([]),
    reservations: jsonb().$type<Reservation[]>().notNull().default([]),
    decidedBy: personRef()
      .notNull()
      .references(() => people.id),
    decidedAt: moment().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.cycleId, table.nodeId] }),
    check('sign_offs_reason', sql`${table.decision} = 'accepted' or ${table.reason} <> ''`),
  ],
);

/** An application that a cycle tests in another environment than its own. */
export const cycleEnvironments = pgTable(
  'cycle_environments',
  {
    programmeId: inProgramme().references(() => programmes.id),
    cycleId: cycleRef()
      .notNull()
      .references(() => cycles.id, { onDelete: 'cascade' }),
    applicationId: applicationRef()
      .notNull()
      .references(() => applications.id),
    environmentId: uuid()
      .$type<EnvironmentId>()
      .notNull()
      .references(() => environments.id),
  },
  (table) => [primaryKey({ columns: [table.cycleId, table.applicationId] })],
);

/** How many turns were planned to be done by when, as the cycle was opened: for each day, team and node. Kept by a trigger as it is. */
export const baselines = pgTable(
  'baselines',
  {
    programmeId: inProgramme().references(() => programmes.id),
    cycleId: cycleRef()
      .notNull()
      .references(() => cycles.id),
    day: date({ mode: 'string' }).notNull(),
    teamId: teamRef().references(() => teams.id),
    nodeId: nodeRef()
      .notNull()
      .references(() => nodes.id),
    turns: integer().notNull(),
    minutes: integer().notNull(),
  },
  (table) => [unique().on(table.cycleId, table.day, table.teamId, table.nodeId).nullsNotDistinct()],
);

export type CycleRow = typeof cycles.$inferSelect;
export type RunRow = typeof runs.$inferSelect;
