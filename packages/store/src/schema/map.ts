import { sql } from 'drizzle-orm';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';
import { boolean, check, index, jsonb, pgTable, text, unique } from 'drizzle-orm/pg-core';
import type { NodeDocument } from '@kindred-baton/core/map/node-document';
import { applicationRef, createdAt, moment, nodeRef, personRef, position, programmeRef, teamRef } from './columns.ts';
import { people } from './people.ts';
import { applications, programmes, teams } from './programmes.ts';

export const nodes = pgTable(
  'nodes',
  {
    id: nodeRef().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    parentId: nodeRef().references((): AnyPgColumn => nodes.id),
    code: text().notNull(),
    name: text().notNull(),
    position: position(),
    teamId: teamRef().references(() => teams.id),
    applicationId: applicationRef().references(() => applications.id),
    ownerId: personRef().references(() => people.id),
    isCritical: boolean().notNull().default(false),
    description: text().notNull().default(''),
    documents: jsonb().$type<NodeDocument[]>().notNull().default([]),
    /** Set when the business does no longer do this; what was tested there stays. */
    retiredAt: moment(),
    createdAt: createdAt(),
  },
  (table) => [
    unique().on(table.programmeId, table.code),
    index().on(table.parentId),
    check('nodes_parent', sql`${table.parentId} is distinct from ${table.id}`),
    check('nodes_texts', sql`${table.code} <> '' and ${table.name} <> ''`),
  ],
);
