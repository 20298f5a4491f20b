import { sql } from 'drizzle-orm';
import { boolean, check, pgTable, primaryKey, text, unique, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import type { EnvironmentId, PersonaId } from '@kindred-baton/core/ids';
import { bytes } from './bytes.ts';
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
    /** The account with which a runner signs in; its password is sealed (store/secrets.ts), and nobody is ever shown it. */
    userName: text().notNull().default(''),
    secret: bytes(),
    /** Whoever it is that a turn says nothing of. */
    isUsual: boolean().notNull().default(false),
  },
  (table) => [
    primaryKey({ columns: [table.personaId, table.applicationId, table.environmentId] }),
    uniqueIndex('persona_starts_one_usual')
      .on(table.applicationId, table.environmentId)
      .where(sql`${table.isUsual}`),
  ],
);
