/** People and their sign-in. The shapes of people, sessions, accounts, verifications and rate_limits are better-auth's. */
import { bigint, boolean, index, integer, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { createdAt, moment, personRef } from './columns.ts';

export const people = pgTable('people', {
  id: personRef().primaryKey(),
  name: text().notNull(),
  email: text().notNull().unique(),
  emailVerified: boolean().notNull().default(false),
  image: text(),
  createdAt: createdAt(),
  updatedAt: createdAt(),
});

export const sessions = pgTable(
  'sessions',
  {
    id: uuid().primaryKey(),
    userId: personRef()
      .notNull()
      .references(() => people.id, { onDelete: 'cascade' }),
    token: text().notNull().unique(),
    expiresAt: moment().notNull(),
    ipAddress: text(),
    userAgent: text(),
    createdAt: createdAt(),
    updatedAt: createdAt(),
  },
  (table) => [index().on(table.userId)],
);

export const accounts = pgTable(
  'accounts',
  {
    id: uuid().primaryKey(),
    accountId: text().notNull(),
    providerId: text().notNull(),
    userId: personRef()
      .notNull()
      .references(() => people.id, { onDelete: 'cascade' }),
    accessToken: text(),
    refreshToken: text(),
    idToken: text(),
    accessTokenExpiresAt: moment(),
    refreshTokenExpiresAt: moment(),
    scope: text(),
    password: text(),
    createdAt: createdAt(),
    updatedAt: createdAt(),
  },
  (table) => [index().on(table.userId)],
);

export const verifications = pgTable('verifications', {
  id: uuid().primaryKey(),
  identifier: text().notNull(),
  value: text().notNull(),
  expiresAt: moment().notNull(),
  createdAt: createdAt(),
  updatedAt: createdAt(),
});

export const rateLimits = pgTable('rate_limits', {
  id: uuid().primaryKey(),
  key: text().notNull().unique(),
  count: integer().notNull(),
  lastRequest: bigint({ mode: 'number' }).notNull(),
});
