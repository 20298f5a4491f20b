import { sql } from 'drizzle-orm';
import { check, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { EnvironmentId, PersonaId } from '@kindred-baton/core/ids';
import { applicationRef, inProgramme, programmeRef } from './columns.ts';
import { applications, environments, programmes } from './programmes.ts';

/** Somebody as whom steps are done: a field planner, an accountant. */
export const personas = pgTable(
  'personas',
  {
    id: uuid().$type<PersonaId>().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    name: text().notNull(),
    description: text().notNull().default(''),
  },
  (table) => [unique().on(table.programmeId, table.name), check('personas_name', sql`${table.name} <> ''`)],
);

/** How a persona starts an application in an environment: which sign-in, which role, where the password is kept. */
export const personaStarts = pgTable(
  'persona_starts',
  {
    programmeId: inProgramme().references(() => programmes.id),
    personaId: uuid()
      .$type<PersonaId>()
      .notNull()
      .references(() => personas.id, { onDelete: 'cascade' }),
    applicationId: applicationRef()
      .notNull()
      .references(() => applications.id),
    environmentId: uuid()
      .$type<EnvironmentId>()
      .notNull()
      .references(() => environments.id),
    how: text().notNull(),
  },
  (table) => [primaryKey({ columns: [table.personaId, table.applicationId, table.environmentId] })],
);
