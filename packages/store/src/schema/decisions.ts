import type { KeepDecision, LeftOpen } from '@kindred-baton/contracts/progress/outlook';
import type { DecisionId } from '@kindred-baton/core/ids';
import type { DecisionKind } from '@kindred-baton/core/progress/decision';
import { sql } from 'drizzle-orm';
import { check, date, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { createdAt, cycleRef, moment, personRef, programmeRef } from './columns.ts';
import { cycles } from './cycles.ts';
import { people } from './people.ts';
import { programmes } from './programmes.ts';

/** What was decided about the end of a cycle, with the figures as they stood. It is not changed; taken back, it stays. */
export const decisions = pgTable(
  'decisions',
  {
    id: uuid().$type<DecisionId>().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    cycleId: cycleRef()
      .notNull()
      .references(() => cycles.id),
    kind: text().$type<DecisionKind>().notNull(),
    words: text().notNull(),
    why: text().notNull(),
    before: jsonb().$type<KeepDecision['before']>().notNull(),
    after: jsonb().$type<KeepDecision['after']>().notNull(),
    plannedOn: date({ mode: 'string' }).notNull(),
    turns: integer().notNull(),
    through: integer().notNull(),
    left: jsonb().$type<LeftOpen>(),
    decidedBy: personRef()
      .notNull()
      .references(() => people.id),
    decidedAt: createdAt(),
    takenBackBy: personRef().references(() => people.id),
    takenBackAt: moment(),
  },
  (table) => [index().on(table.cycleId, table.decidedAt), check('decisions_texts', sql`${table.words} <> '' and ${table.why} <> ''`)],
);
