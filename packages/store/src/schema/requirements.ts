import { sql } from 'drizzle-orm';
import { check, index, pgEnum, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { RequirementId } from '@kindred-baton/core/ids';
import { REQUIREMENT_KINDS } from '@kindred-baton/core/requirements/requirement';
import { inProgramme, nodeRef, programmeRef, testRef } from './columns.ts';
import { nodes } from './map.ts';
import { priority } from './priority.ts';
import { programmes } from './programmes.ts';
import { tests } from './tests.ts';

export const requirementKind = pgEnum('requirement_kind', REQUIREMENT_KINDS);

export const requirements = pgTable(
  'requirements',
  {
    id: uuid().$type<RequirementId>().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    code: text().notNull(),
    title: text().notNull(),
    description: text().notNull().default(''),
    kind: requirementKind().notNull(),
    priority: priority().notNull().default('medium'),
  },
  (table) => [unique().on(table.programmeId, table.code), check('requirements_texts', sql`${table.code} <> '' and ${table.title} <> ''`)],
);

export const requirementNodes = pgTable(
  'requirement_nodes',
  {
    programmeId: inProgramme().references(() => programmes.id),
    requirementId: uuid()
      .$type<RequirementId>()
      .notNull()
      .references(() => requirements.id, { onDelete: 'cascade' }),
    nodeId: nodeRef()
      .notNull()
      .references(() => nodes.id),
  },
  (table) => [primaryKey({ columns: [table.requirementId, table.nodeId] }), index().on(table.nodeId)],
);

export const requirementTests = pgTable(
  'requirement_tests',
  {
    programmeId: inProgramme().references(() => programmes.id),
    requirementId: uuid()
      .$type<RequirementId>()
      .notNull()
      .references(() => requirements.id, { onDelete: 'cascade' }),
    testId: testRef()
      .notNull()
      .references(() => tests.id),
  },
  (table) => [primaryKey({ columns: [table.requirementId, table.testId] }), index().on(table.testId)],
);
