import { pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { DataAddressId } from '@kindred-baton/core/ids';
import { createdAt, moment, personRef, programmeRef } from './columns.ts';
import { people } from './people.ts';
import { programmes } from './programmes.ts';

/** An address at which rows are read without signing in, with what its owner may see. Withdrawn, it is gone. */
export const dataAddresses = pgTable('data_addresses', {
  id: uuid().$type<DataAddressId>().primaryKey(),
  programmeId: programmeRef()
    .notNull()
    .references(() => programmes.id),
  personId: personRef()
    .notNull()
    .references(() => people.id),
  name: text().notNull(),
  /** Its token is shown once; of it only this is kept. */
  tokenHash: text().notNull().unique(),
  addedAt: createdAt(),
  /** null: until it is withdrawn. */
  expiresAt: moment(),
  usedAt: moment(),
});
