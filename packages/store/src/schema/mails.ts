import { sql } from 'drizzle-orm';
import { check, index, integer, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { MailId } from '@kindred-baton/core/ids';
import { createdAt, moment, programmeRef } from './columns.ts';
import { programmes } from './programmes.ts';

/** Letters to be sent, written in the transaction of what they tell; the sender marks them. */
export const mails = pgTable(
  'mails',
  {
    id: uuid().$type<MailId>().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    to: text().notNull(),
    toName: text().notNull(),
    subject: text().notNull(),
    text: text().notNull(),
    createdAt: createdAt(),
    sentAt: moment(),
    /** How often it could not be sent; after the last try it stays, with the reason. */
    failures: integer().notNull().default(0),
    problem: text().notNull().default(''),
    nextTryAt: moment().notNull().defaultNow(),
  },
  (table) => [
    index('mails_to_send')
      .on(table.nextTryAt)
      .where(sql`${table.sentAt} is null`),
    check('mails_to', sql`${table.to} <> ''`),
  ],
);
