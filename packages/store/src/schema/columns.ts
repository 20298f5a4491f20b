import { sql } from 'drizzle-orm';
import { integer, timestamp, uuid } from 'drizzle-orm/pg-core';
import type {
  ApplicationId,
  CycleId,
  NodeId,
  PersonId,
  ProgrammeId,
  RunId,
  ScenarioId,
  TeamId,
  TestId,
  TurnId,
} from '@kindred-baton/core/ids';

/** Column builders that several tables share, typed by what they point to. */
export const moment = () => timestamp({ withTimezone: true, mode: 'date' });
export const createdAt = () => moment().notNull().defaultNow();
export const position = () => integer().notNull().default(0);

export const programmeRef = () => uuid().$type<ProgrammeId>();
/** The programme of a row that belongs to another row: that of whoever writes it (operation.ts sets it), so nobody has to name it. */
export const inProgramme = () =>
  programmeRef()
    .notNull()
    .default(sql`nullif(current_setting('kindred_baton.programme', true), '')::uuid`);
export const personRef = () => uuid().$type<PersonId>();
export const teamRef = () => uuid().$type<TeamId>();
export const applicationRef = () => uuid().$type<ApplicationId>();
export const nodeRef = () => uuid().$type<NodeId>();
export const testRef = () => uuid().$type<TestId>();
export const scenarioRef = () => uuid().$type<ScenarioId>();
export const cycleRef = () => uuid().$type<CycleId>();
export const runRef = () => uuid().$type<RunId>();
export const turnRef = () => uuid().$type<TurnId>();
