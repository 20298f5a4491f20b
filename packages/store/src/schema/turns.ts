import { sql } from 'drizzle-orm';
import {
  boolean,
  check,
  date,
  index,
  integer,
  jsonb,
  pgEnum,
  pgTable,
  primaryKey,
  text,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';
import type { AttemptId, EvidenceId, LegId, NudgeId, PersonaId, RunnerId, TestVersionId } from '@kindred-baton/core/ids';
import { OUTCOMES, STEP_OUTCOMES } from '@kindred-baton/core/outcomes';
import type { BareTurn, HoldCause, PinnedNeed } from '@kindred-baton/core/turns/turn';
import { TURN_STATES, TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { bytes } from './bytes.ts';
import {
  createdAt,
  cycleRef,
  inProgramme,
  moment,
  nodeRef,
  personRef,
  programmeRef,
  runRef,
  teamRef,
  testRef,
  turnRef,
} from './columns.ts';
import { cycles, runs } from './cycles.ts';
import { nodes } from './map.ts';
import { people } from './people.ts';
import { personas } from './personas.ts';
import { programmes, teams } from './programmes.ts';
import { runners } from './runners.ts';
import { legs } from './scenarios.ts';
import { testVersions, tests } from './tests.ts';

export const turnState = pgEnum('turn_state', TURN_STATES);
export const turnStatus = pgEnum('turn_status', TURN_STATUSES);
export const outcome = pgEnum('outcome', OUTCOMES);
export const stepOutcome = pgEnum('step_outcome', STEP_OUTCOMES);

/** One leg of one run, with what was pinned for it. state, outcome, status and causes follow from attempts (core: assessRun). */
export const turns = pgTable(
  'turns',
  {
    id: turnRef().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    cycleId: cycleRef()
      .notNull()
      .references(() => cycles.id),
    runId: runRef()
      .notNull()
      .references(() => runs.id),
    index: integer().notNull(),
    legId: uuid()
      .$type<LegId>()
      .references(() => legs.id, { onDelete: 'set null' }),
    title: text().notNull(),
    testId: testRef().references(() => tests.id),
    versionId: uuid()
      .$type<TestVersionId>()
      .references(() => testVersions.id),
    nodeId: nodeRef()
      .notNull()
      .references(() => nodes.id),
    teamId: teamRef().references(() => teams.id),
    assigneeId: personRef().references(() => people.id),
    minutes: integer().notNull(),
    dueOn: date({ mode: 'string' }),
    after: integer().array().notNull(),
    needs: jsonb().$type<PinnedNeed[]>().notNull(),
    /** Pinned from the leg: what testers should know, as whom it is done, and by whom; turns are named by their index. */
    note: text().notNull().default(''),
    personaId: uuid()
      .$type<PersonaId>()
      .references(() => personas.id, { onDelete: 'set null' }),
    /** Days that pass after the turns before it. */
    waitDays: integer().notNull().default(0),
    samePersonAs: integer(),
    otherPersonThan: integer().array().notNull().default([]),
    /** What is done and kept at a turn without an agreed test; null: the version says it. */
    bare: jsonb().$type<BareTurn>(),
    state: turnState().notNull().default('waiting'),
    outcome: outcome().notNull().default('not run'),
    status: turnStatus().notNull().default('waiting'),
    causes: jsonb().$type<HoldCause[]>().notNull().default([]),
    isRetestDue: boolean().notNull().default(false),
    /** What blocked the attempt of this number is out of the way. */
    liftedAfter: integer(),
    readyAt: moment(),
    doneAt: moment(),
  },
  (table) => [
    unique().on(table.runId, table.index),
    index().on(table.cycleId, table.status),
    index().on(table.assigneeId, table.state),
    index().on(table.testId),
    index().on(table.nodeId),
    check('turns_index', sql`${table.index} >= 0 and ${table.minutes} > 0`),
    check('turns_done', sql`(${table.outcome} = 'not run') = (${table.doneAt} is null)`),
  ],
);

/** Attempts are kept for ever; the newest finished one is the turn's outcome. The browser mints the id, so sending twice stores once. */
export const attempts = pgTable(
  'attempts',
  {
    programmeId: inProgramme().references(() => programmes.id),
    id: uuid().$type<AttemptId>().primaryKey(),
    turnId: turnRef()
      .notNull()
      .references(() => turns.id),
    number: integer().notNull(),
    personId: personRef()
      .notNull()
      .references(() => people.id),
    /** null: a bare turn, done without written steps. */
    versionId: uuid()
      .$type<TestVersionId>()
      .references(() => testVersions.id),
    startedAt: moment().notNull(),
    finishedAt: moment(),
    outcome: stepOutcome(),
    kept: jsonb().$type<Record<string, string>>().notNull().default({}),
    environment: text().notNull(),
    browser: text().notNull().default(''),
    /** Its maker left the programme before it was finished. */
    isAbandoned: boolean().notNull().default(false),
    /** It came in on a turn sheet. */
    isFromSheet: boolean().notNull().default(false),
    /** The runner that does it, or did last. */
    runnerId: uuid()
      .$type<RunnerId>()
      .references(() => runners.id),
    /** It goes on from where another ended; the steps before are that one's. */
    continuesId: uuid()
      .$type<AttemptId>()
      .references((): AnyPgColumn => attempts.id),
    /** Fixes its fresh values: its own id, or that of the attempt with which they began. */
    seedId: uuid().$type<AttemptId>().notNull(),
  },
  (table) => [
    unique().on(table.turnId, table.number),
    uniqueIndex('attempts_one_under_way')
      .on(table.turnId)
      .where(sql`${table.finishedAt} is null`),
    index('attempts_kept').using('gin', table.kept),
    check('attempts_finished', sql`(${table.finishedAt} is null) = (${table.outcome} is null)`),
  ],
);

export const stepResults = pgTable(
  'step_results',
  {
    programmeId: inProgramme().references(() => programmes.id),
    attemptId: uuid()
      .$type<AttemptId>()
      .notNull()
      .references(() => attempts.id),
    stepIndex: integer().notNull(),
    /** null: it was cleared again. */
    outcome: stepOutcome(),
    note: text().notNull().default(''),
    recordedAt: moment().notNull(),
    /** Minted by the browser: the same word sent twice is stored once. */
    wordId: uuid().notNull(),
    /** Whose word it is: in one attempt there may be several hands. */
    byId: personRef()
      .notNull()
      .references(() => people.id),
    runnerId: uuid()
      .$type<RunnerId>()
      .references(() => runners.id),
    /** What a runner looked for, what it saw, and what of the expected result it did not look at. */
    expected: text().notNull().default(''),
    actual: text().notNull().default(''),
    unlooked: text().notNull().default(''),
    tookMs: integer(),
  },
  (table) => [primaryKey({ columns: [table.attemptId, table.stepIndex] }), check('step_results_index', sql`${table.stepIndex} >= 0`)],
);

export const evidence = pgTable(
  'evidence',
  {
    id: uuid().$type<EvidenceId>().primaryKey(),
    programmeId: programmeRef()
      .notNull()
      .references(() => programmes.id),
    attemptId: uuid()
      .$type<AttemptId>()
      .notNull()
      .references(() => attempts.id),
    stepIndex: integer().notNull(),
    name: text().notNull(),
    mediaType: text().notNull(),
    size: integer().notNull(),
    content: bytes().notNull(),
    addedBy: personRef()
      .notNull()
      .references(() => people.id),
    addedAt: createdAt(),
  },
  (table) => [index().on(table.attemptId), check('evidence_size', sql`${table.size} between 1 and 10485760`)],
);

/**
 * An attempt that a runner does now. It is the runner's until `expiresAt`; when nothing was heard of it by then, the attempt is broken off and the
 * turn is given out again.
 */
export const leases = pgTable(
  'leases',
  {
    programmeId: inProgramme().references(() => programmes.id),
    attemptId: uuid()
      .$type<AttemptId>()
      .primaryKey()
      .references(() => attempts.id),
    runnerId: uuid()
      .$type<RunnerId>()
      .notNull()
      .references(() => runners.id),
    takenAt: moment().notNull(),
    expiresAt: moment().notNull(),
    /** The step that is done now, from 0. */
    stepIndex: integer().notNull().default(0),
  },
  (table) => [index().on(table.runnerId), index().on(table.expiresAt)],
);

/** A screen as data, as a runner last looked at it in a step (core/screens/capture.ts), as gzip. */
export const captures = pgTable(
  'captures',
  {
    programmeId: inProgramme().references(() => programmes.id),
    attemptId: uuid()
      .$type<AttemptId>()
      .notNull()
      .references(() => attempts.id),
    stepIndex: integer().notNull(),
    content: bytes().notNull(),
  },
  (table) => [primaryKey({ columns: [table.attemptId, table.stepIndex] })],
);

/** What whoever made an attempt says it took, in minutes, instead of what its words say. */
export const saidMinutes = pgTable(
  'said_minutes',
  {
    programmeId: inProgramme().references(() => programmes.id),
    attemptId: uuid()
      .$type<AttemptId>()
      .primaryKey()
      .references(() => attempts.id),
    minutes: integer().notNull(),
    saidAt: moment().notNull(),
  },
  (table) => [check('said_minutes_minutes', sql`${table.minutes} > 0`)],
);

/** Polite words to whoever has the baton: kept, so that they can be counted. */
export const nudges = pgTable(
  'nudges',
  {
    programmeId: inProgramme().references(() => programmes.id),
    id: uuid().$type<NudgeId>().primaryKey(),
    turnId: turnRef()
      .notNull()
      .references(() => turns.id, { onDelete: 'cascade' }),
    fromId: personRef()
      .notNull()
      .references(() => people.id),
    toId: personRef()
      .notNull()
      .references(() => people.id),
    at: moment().notNull(),
  },
  (table) => [index().on(table.turnId), index().on(table.toId)],
);

export type TurnRow = typeof turns.$inferSelect;
export type AttemptRow = typeof attempts.$inferSelect;
