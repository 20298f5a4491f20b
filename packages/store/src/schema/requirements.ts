import { index, pgEnum, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { RequirementId } from '@kindred-baton/core/ids';
import { REQUIREMENT_KINDS } from '@kindred-baton/core/map/requirement';
import { nodeRef, programmeRef, testRef } from './columns.ts';
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
    nodeId: nodeRef().references(() => nodes.id),
    code: text().notNull(),
    title: text().notNull(),
    kind: requirementKind().notNull(),
    priority: priority().notNull().default('medium'),
  },
  (table) => [unique().on(table.programmeId, table.code), index().on(table.nodeId)],
);

export const requirementTests = pgTable(
  'requirement_tests',
  {
    requirementId: uuid()
      .$type<RequirementId>()
      .notNull()
      .references(() => requirements.id),
    testId: testRef()
      .notNull()
      .references(() => tests.id),
  },
  (table) => [primaryKey({ columns: [table.requirementId, table.testId] }), index().on(table.testId)],
);
