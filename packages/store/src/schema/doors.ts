import { sql } from 'drizzle-orm';
import { check, pgEnum, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import { DOOR_KINDS, DOOR_SIGN_INS } from '@kindred-baton/core/doors/door';
import type { DoorId, EnvironmentId } from '@kindred-baton/core/ids';
import { bytes } from './bytes.ts';
import { applicationRef, programmeRef } from './columns.ts';
import { applications, environments, programmes } from './programmes.ts';

export const doorKind = pgEnum('door_kind', DOOR_KINDS);
export const doorSignIn = pgEnum('door_sign_in', DOOR_SIGN_INS);

/** A way into an environment of an application beside its screens. */
export const doors = pgTable(
  'doors',
  {
    id: uuid().$type<DoorId>().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    environmentId: uuid()
      .$type<EnvironmentId>()
      .notNull()
      .references(() => environments.id, { onDelete: 'cascade' }),
    applicationId: applicationRef()
      .notNull()
      .references(() => applications.id, { onDelete: 'cascade' }),
    /** Steps name it so, in every environment alike. */
    name: text().notNull(),
    kind: doorKind().notNull(),
    address: text().notNull(),
    signIn: doorSignIn().notNull().default('none'),
    userName: text().notNull().default(''),
    /** Sealed (store/secrets.ts), and nobody is ever shown it. */
    secret: bytes(),
  },
  (table) => [unique().on(table.environmentId, table.name), check('doors_name', sql`${table.name} <> ''`)],
);
