import { isNull, sql } from 'drizzle-orm';
import { bigserial, check, index, integer, jsonb, pgEnum, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { LegId, PersonaId, ScenarioRowId } from '@kindred-baton/core/ids';
import type { ClassSetup } from '@kindred-baton/core/rows/row-model';
import type { Wire } from '@kindred-baton/core/scenarios/chain';
import { SCENARIO_STATES } from '@kindred-baton/core/scenarios/scenario';
import type { ScenarioDocument } from '@kindred-baton/core/scenarios/scenario-document';
import type { Field } from '@kindred-baton/core/values/field';
import { createdAt, inProgramme, moment, nodeRef, personRef, position, programmeRef, scenarioRef, teamRef, testRef } from './columns.ts';
import { nodes } from './map.ts';
import { people } from './people.ts';
import { personas } from './personas.ts';
import { priority } from './priority.ts';
import { programmes, teams } from './programmes.ts';
import { tests } from './tests.ts';

export const scenarioState = pgEnum('scenario_state', SCENARIO_STATES);

export const scenarios = pgTable(
  'scenarios',
  {
    id: scenarioRef().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    code: text().notNull(),
    name: text().notNull(),
    nodeId: nodeRef()
      .notNull()
      .references(() => nodes.id),
    state: scenarioState().notNull().default('sketch'),
    /** What was agreed before an edit made it a sketch: once it is that again, it is agreed. */
    agreedDocument: jsonb().$type<ScenarioDocument>(),
    priority: priority().notNull().default('medium'),
    columns: jsonb().$type<Field[]>().notNull().default([]),
    /** How rows are made from classes; null: they are typed. */
    classes: jsonb().$type<ClassSetup>(),
    /** It is nothing but this test, taken into cycles by itself: made when it is chosen, drawn and listed nowhere. */
    onlyTestId: testRef()
      .unique()
      .references(() => tests.id),
    createdAt: createdAt(),
  },
  (table) => [unique().on(table.programmeId, table.code), index().on(table.nodeId), check('scenarios_texts', sql`${table.name} <> ''`)],
);

/** A scenario that somebody drew, as scenarios are listed and counted. */
export const isDrawn = isNull(scenarios.onlyTestId);

export const scenarioRows = pgTable(
  'scenario_rows',
  {
    programmeId: inProgramme().references(() => programmes.id),
    id: uuid().$type<ScenarioRowId>().primaryKey(),
    scenarioId: scenarioRef()
      .notNull()
      .references(() => scenarios.id),
    name: text().notNull(),
    position: position(),
    values: jsonb().$type<Record<string, string>>().notNull(),
  },
  (table) => [unique().on(table.scenarioId, table.name)],
);

/** A leg links to a test; without one it is open and its title says what is to be tested. */
export const legs = pgTable(
  'legs',
  {
    programmeId: inProgramme().references(() => programmes.id),
    id: uuid().$type<LegId>().primaryKey(),
    scenarioId: scenarioRef()
      .notNull()
      .references(() => scenarios.id),
    position: position(),
    testId: testRef().references(() => tests.id),
    /** The version it is drawn with; null: the newest agreed one. */
    version: integer(),
    title: text(),
    teamId: teamRef().references(() => teams.id),
    /** Legs it waits for; null: the one before it. */
    after: jsonb().$type<LegId[]>(),
    wires: jsonb().$type<Wire[]>().notNull().default([]),
    waitDays: integer().notNull().default(0),
    personaId: uuid()
      .$type<PersonaId>()
      .references(() => personas.id, { onDelete: 'set null' }),
    samePersonAs: uuid().$type<LegId>(),
    otherPersonThan: jsonb().$type<LegId[]>().notNull().default([]),
    note: text().notNull().default(''),
    /** What an open leg is to need and to give. */
    needs: jsonb().$type<Field[]>().notNull().default([]),
    gives: jsonb().$type<Field[]>().notNull().default([]),
  },
  (table) => [
    index().on(table.scenarioId, table.position),
    index().on(table.testId),
    check('legs_test_or_title', sql`${table.testId} is not null or coalesce(${table.title}, '') <> ''`),
    check('legs_version', sql`${table.version} is null or (${table.version} > 0 and ${table.testId} is not null)`),
    check('legs_wait', sql`${table.waitDays} between 0 and 366`),
  ],
);

/** What a scenario was after a sitting of one person: kept, to be compared with. */
export const scenarioStates = pgTable(
  'scenario_states',
  {
    programmeId: inProgramme().references(() => programmes.id),
    id: bigserial({ mode: 'number' }).primaryKey(),
    scenarioId: scenarioRef()
      .notNull()
      .references(() => scenarios.id),
    document: jsonb().$type<ScenarioDocument>().notNull(),
    savedBy: personRef().references(() => people.id),
    savedAt: moment().notNull(),
  },
  (table) => [index().on(table.scenarioId, table.id)],
);

export type ScenarioRecord = typeof scenarios.$inferSelect;
export type ScenarioRowRecord = typeof scenarioRows.$inferSelect;
export type LegRow = typeof legs.$inferSelect;
