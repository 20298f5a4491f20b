import { bigserial, index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { createdAt, personRef, programmeRef } from './columns.ts';
import { people } from './people.ts';
import { programmes } from './programmes.ts';

/** Who changed what, and when; written in the same transaction as the change. */
export const history = pgTable(
  'history',
  {
    id: bigserial({ mode: 'number' }).primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    subject: text().notNull(),
    subjectId: uuid().notNull(),
    action: text().notNull(),
    details: jsonb().$type<Record<string, unknown>>().notNull().default({}),
    personId: personRef().references(() => people.id),
    at: createdAt(),
  },
  (table) => [index().on(table.subjectId, table.id)],
);
