import type { SliceView } from '@kindred-baton/core/boards/slice';
import type { Tile } from '@kindred-baton/contracts/boards/board';
import type { BoardId, SliceId } from '@kindred-baton/core/ids';
import { boolean, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { createdAt, moment, personRef, programmeRef } from './columns.ts';
import { people } from './people.ts';
import { programmes } from './programmes.ts';

/** Something of the programme that a cut names, as it was called when it was kept. */
export interface Anchor {
  readonly name: string;
  readonly value: string;
  readonly id: string;
}

const ofProgramme = () =>
  programmeRef()
    .notNull()
    .references(() => programmes.id);
const owner = () =>
  personRef()
    .notNull()
    .references(() => people.id);

/** A kept cut of a view. */
export const slices = pgTable('slices', {
  id: uuid().$type<SliceId>().primaryKey(),
  programmeId: ofProgramme(),
  personId: owner(),
  name: text().notNull(),
  isShared: boolean().notNull(),
  view: text().$type<SliceView>().notNull(),
  cut: jsonb().$type<Record<string, string>>().notNull(),
  /** What it names, by id: a renamed node, team or test is followed. */
  anchors: jsonb().$type<Anchor[]>().notNull(),
  keptAt: createdAt(),
});

/** Slices as tiles on a page. */
export const boards = pgTable('boards', {
  id: uuid().$type<BoardId>().primaryKey(),
  programmeId: ofProgramme(),
  personId: owner(),
  name: text().notNull(),
  isShared: boolean().notNull(),
  /** In their order. A slice that a tile names may be gone. */
  tiles: jsonb().$type<Tile[]>().notNull(),
  version: integer().notNull().default(1),
  keptAt: createdAt(),
});

/** What shows a board to whoever has it, without signing in. Withdrawn, it is gone. */
export const boardLinks = pgTable('board_links', {
  boardId: uuid()
    .$type<BoardId>()
    .primaryKey()
    .references(() => boards.id, { onDelete: 'cascade' }),
  programmeId: ofProgramme(),
  /** In whose name it shows. */
  personId: owner(),
  tokenHash: text().notNull().unique(),
  madeAt: createdAt(),
  usedAt: moment(),
});
