import { sql } from 'drizzle-orm';
import { bigint, boolean, check, date, index, integer, jsonb, pgTable, primaryKey, real, text, unique, uuid } from 'drizzle-orm/pg-core';
import { DEFAULT_CYCLE_SCHEME } from '@kindred-baton/core/cycles/cycle-code';
import type { EnvironmentId, InvitationId } from '@kindred-baton/core/ids';
import { DEFAULT_CODE_SCHEME } from '@kindred-baton/core/map/code-scheme';
import type { NoticeWishes } from '@kindred-baton/core/programmes/notices';
import { DEFAULT_NOTICES } from '@kindred-baton/core/programmes/notices';
import type { SeverityNames } from '@kindred-baton/core/defects/defect';
import type { Role } from '@kindred-baton/core/programmes/roles';
import { ROLES } from '@kindred-baton/core/programmes/roles';
import { applicationRef, createdAt, inProgramme, moment, personRef, position, programmeRef, teamRef } from './columns.ts';
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
    /** How cycles are numbered. */
    cycleScheme: text().notNull().default(DEFAULT_CYCLE_SCHEME),
    defectPrefix: text().notNull(),
    /** What this programme calls the severities of defects; empty: by our words. */
    /** Testers may be looked at side by side, by name. */
    namesTesters: boolean().notNull().default(false),
    severityNames: jsonb().$type<SeverityNames>().notNull().default({}),
    /** Where changes of defects are told; empty: nowhere. */
    defectHook: text().notNull().default(''),
    /** The last line of the history that the hook was told, and why the next could not be. */
    hookedUpTo: bigint({ mode: 'number' }).notNull().default(0),
    hookProblem: text().notNull().default(''),
    /** Until then one server is telling the hook; kept ahead of now while it does. */
    hookClaimedUntil: moment(),
    nextDefect: integer().notNull().default(1),
    isDemo: boolean().notNull().default(false),
    createdAt: createdAt(),
  },
  (table) => [
    check('programmes_levels', sql`cardinality(${table.levels}) between 2 and 6`),
    check(
      'programmes_key',
      sql`${table.key} ~ '^[a-z][a-z0-9-]*$' and ${table.key} not in ('api', 'sign-in', 'begin', 'invitation', 'calendar')`,
    ),
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
    /** She has left: what she did stays, what was with her has been handed over. */
    leftAt: moment(),
    notices: jsonb().$type<NoticeWishes>().notNull().default(DEFAULT_NOTICES),
    /** Opens her calendar without signing in; made when she asks for it. */
    feedToken: text().unique(),
    /** When she last looked at her turns. */
    seenAt: moment(),
    /** The morning on which her last digest went out. */
    digestOn: date({ mode: 'string' }),
    /** The same of what changed. */
    newsOn: date({ mode: 'string' }),
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
    /** Where its public holidays are taken from: a country, or country and region (GB, DE-BY). */
    holidayRegion: text().notNull().default(''),
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
    programmeId: inProgramme().references(() => programmes.id),
    teamId: teamRef()
      .notNull()
      .references(() => teams.id),
    personId: personRef()
      .notNull()
      .references(() => people.id),
    /** Her own hours, where they are others than the team's. */
    hoursPerDay: real(),
  },
  (table) => [
    primaryKey({ columns: [table.teamId, table.personId] }),
    index().on(table.personId),
    check('team_members_hours', sql`${table.hoursPerDay} > 0 and ${table.hoursPerDay} <= 24`),
  ],
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
    programmeId: inProgramme().references(() => programmes.id),
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

/** Days on which somebody is not there, both included. */
export const absences = pgTable(
  'absences',
  {
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    personId: personRef()
      .notNull()
      .references(() => people.id),
    firstDay: date({ mode: 'string' }).notNull(),
    lastDay: date({ mode: 'string' }).notNull(),
    note: text().notNull().default(''),
  },
  (table) => [
    primaryKey({ columns: [table.programmeId, table.personId, table.firstDay] }),
    check('absences_days', sql`${table.firstDay} <= ${table.lastDay}`),
  ],
);

/** Somebody who was asked by mail to come; the letter carries a token of which only the hash is kept. */
export const invitations = pgTable(
  'invitations',
  {
    id: uuid().$type<InvitationId>().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    email: text().notNull(),
    name: text().notNull(),
    roles: text().array().$type<Role[]>().notNull(),
    teamIds: uuid().array().notNull().default([]),
    tokenHash: text().notNull().unique(),
    invitedBy: personRef()
      .notNull()
      .references(() => people.id),
    invitedAt: createdAt(),
    acceptedAt: moment(),
  },
  (table) => [
    unique().on(table.programmeId, table.email),
    check('invitations_roles', sql`cardinality(${table.roles}) > 0 and ${table.roles} <@ ${ROLE_LIST}`),
  ],
);
