import { getTableColumns, sql } from 'drizzle-orm';
import {
  check,
  customType,
  index,
  integer,
  jsonb,
  pgEnum,
  pgTable,
  primaryKey,
  text,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { RUN_BY, VERSION_STATES } from '@kindred-baton/core/tests/version';
import type { DataRow } from '@kindred-baton/core/tests/version';
import type { TestVersionId } from '@kindred-baton/core/ids';
import type { Step } from '@kindred-baton/core/tests/step';
import type { Field } from '@kindred-baton/core/values/field';
import { applicationRef, createdAt, inProgramme, moment, nodeRef, personRef, programmeRef, teamRef, testRef } from './columns.ts';
import { nodes } from './map.ts';
import { priority } from './priority.ts';
import { people } from './people.ts';
import { applications, programmes, teams } from './programmes.ts';

export const versionState = pgEnum('version_state', VERSION_STATES);

export const runBy = pgEnum('run_by', RUN_BY);

const searchVector = customType<{ data: string }>({ dataType: () => 'tsvector' });

export const tests = pgTable(
  'tests',
  {
    id: testRef().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    code: text().notNull(),
    name: text().notNull(),
    nodeId: nodeRef()
      .notNull()
      .references(() => nodes.id),
    teamId: teamRef().references(() => teams.id),
    applicationId: applicationRef().references(() => applications.id),
    priority: priority().notNull().default('medium'),
    minutes: integer().notNull().default(15),
    runBy: runBy().notNull().default('hand'),
    tags: text().array().notNull().default([]),
    /** What the newest version's steps say; a trigger keeps it. */
    words: text().notNull().default(''),
    search: searchVector().generatedAlwaysAs(
      sql`setweight(to_tsvector('english', translate(code || ' ' || name, '-._/', '    ')), 'A') || setweight(to_tsvector('english', translate(words, '-._/', '    ')), 'B')`,
    ),
    createdAt: createdAt(),
  },
  (table) => [
    unique().on(table.programmeId, table.code),
    index().on(table.nodeId),
    index('tests_search').using('gin', table.search),
    index('tests_tags').using('gin', table.tags),
    check('tests_minutes', sql`${table.minutes} between 1 and 10000`),
    check('tests_texts', sql`${table.code} <> '' and ${table.name} <> ''`),
  ],
);

/** Steps, needs, gives and data rows are one document: an agreed version never changes (a trigger holds it). */
export const testVersions = pgTable(
  'test_versions',
  {
    programmeId: inProgramme().references(() => programmes.id),
    id: uuid().$type<TestVersionId>().primaryKey(),
    testId: testRef()
      .notNull()
      .references(() => tests.id),
    number: integer().notNull(),
    state: versionState().notNull().default('draft'),
    steps: jsonb().$type<Step[]>().notNull(),
    needs: jsonb().$type<Field[]>().notNull(),
    gives: jsonb().$type<Field[]>().notNull(),
    rows: jsonb().$type<DataRow[]>().notNull().default([]),
    /** Counts the saves of a draft, so that two editors notice each other. */
    revision: integer().notNull().default(1),
    savedBy: personRef().references(() => people.id),
    savedAt: createdAt(),
    agreedBy: personRef().references(() => people.id),
    agreedAt: moment(),
  },
  (table) => [
    unique().on(table.testId, table.number),
    uniqueIndex('test_versions_one_draft')
      .on(table.testId)
      .where(sql`${table.state} = 'draft'`),
    check('test_versions_agreed', sql`(${table.state} = 'draft') = (${table.agreedAt} is null)`),
  ],
);

/** A finding of *Worth a look* that somebody has looked at, and why it may stay. */
export const waivers = pgTable(
  'waivers',
  {
    programmeId: inProgramme().references(() => programmes.id),
    testId: testRef()
      .notNull()
      .references(() => tests.id),
    rule: text().notNull(),
    /** What the finding is about, so that it stays waived when steps move. */
    about: text().notNull(),
    note: text().notNull(),
    personId: personRef()
      .notNull()
      .references(() => people.id),
    at: createdAt(),
  },
  (table) => [primaryKey({ columns: [table.testId, table.rule, table.about] }), check('waivers_note', sql`${table.note} <> ''`)],
);

/** A test without what it is searched by, which is longer than all the rest. */
const { words: _words, search: _search, ...testFields } = getTableColumns(tests);
export const testColumns = testFields;

export type TestRow = Omit<typeof tests.$inferSelect, 'words' | 'search'>;
export type TestVersionRow = typeof testVersions.$inferSelect;
