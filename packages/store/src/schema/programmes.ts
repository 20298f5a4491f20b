import { sql } from 'drizzle-orm';
import { boolean, check, date, index, integer, pgTable, primaryKey, real, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { EnvironmentId } from '@kindred-baton/core/ids';
import { DEFAULT_CODE_SCHEME } from '@kindred-baton/core/map/code-scheme';
import type { Role } from '@kindred-baton/core/programmes/roles';
import { ROLES } from '@kindred-baton/core/programmes/roles';
import { applicationRef, createdAt, personRef, position, programmeRef, teamRef } from './columns.ts';
import { people } from './people.ts';

export const programmes = pgTable(
  'programmes',
  {
    id: programmeRef().primaryKey(),
    key: text().notNull().unique(),
    name: text().notNull(),
    timeZone: text().notNull(),
    levels: text().array().notNull(),
    /** How nodes are numbered, a pattern for each level. */
    codeScheme: text()
      .array()
      .notNull()
      .default([...DEFAULT_CODE_SCHEME]),
    defectPrefix: text().notNull(),
    nextDefect: integer().notNull().default(1),
    isDemo: boolean().notNull().default(false),
    createdAt: createdAt(),
  },
  (table) => [
    check('programmes_levels', sql`cardinality(${table.levels}) between 2 and 6`),
    check('programmes_key', sql`${table.key} ~ '^[a-z][a-z0-9-]*$' and ${table.key} not in ('api', 'sign-in')`),
  ],
);

const ROLE_LIST = sql.raw(`array[${ROLES.map((role) => `'${role}'`).join(', ')}]`);

export const members = pgTable(
  'members',
  {
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    personId: personRef()
      .notNull()
      .references(() => people.id),
    roles: text().array().$type<Role[]>().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.programmeId, table.personId] }),
    index().on(table.personId),
    check('members_roles', sql`cardinality(${table.roles}) > 0 and ${table.roles} <@ ${ROLE_LIST}`),
  ],
);

export const teams = pgTable(
  'teams',
  {
    id: teamRef().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    name: text().notNull(),
    colour: text().notNull(),
    workingDays: integer().array().notNull(),
    hoursPerDay: real().notNull(),
    holidays: date({ mode: 'string' }).array().notNull().default([]),
    position: position(),
  },
  (table) => [
    unique().on(table.programmeId, table.name),
    check('teams_hours', sql`${table.hoursPerDay} > 0 and ${table.hoursPerDay} <= 24`),
    check('teams_days', sql`${table.workingDays} <@ array[1, 2, 3, 4, 5, 6, 7]`),
  ],
);

export const teamMembers = pgTable(
  'team_members',
  {
    teamId: teamRef()
      .notNull()
      .references(() => teams.id),
    personId: personRef()
      .notNull()
      .references(() => people.id),
  },
  (table) => [primaryKey({ columns: [table.teamId, table.personId] }), index().on(table.personId)],
);

export const applications = pgTable(
  'applications',
  {
    id: applicationRef().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    name: text().notNull(),
  },
  (table) => [unique().on(table.programmeId, table.name)],
);

export const environments = pgTable(
  'environments',
  {
    id: uuid().$type<EnvironmentId>().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    name: text().notNull(),
  },
  (table) => [unique().on(table.programmeId, table.name)],
);

/** An application as it is installed in an environment, with the address at which a tester opens it. */
export const installations = pgTable(
  'installations',
  {
    environmentId: uuid()
      .$type<EnvironmentId>()
      .notNull()
      .references(() => environments.id),
    applicationId: applicationRef()
      .notNull()
      .references(() => applications.id),
    address: text().notNull(),
  },
  (table) => [primaryKey({ columns: [table.environmentId, table.applicationId] })],
);
