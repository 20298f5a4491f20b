import { z } from 'zod';
import { EVIDENCE_RULES, FAILURE_PARTS } from '@kindred-baton/core/cycles/rules';
import { DEFECT_STATUSES } from '@kindred-baton/core/defects/defect';
import { OUTCOMES, STEP_OUTCOMES } from '@kindred-baton/core/outcomes';
import type { FacetFilter } from '@kindred-baton/core/progress/facet';
import { FACET_FILTERS } from '@kindred-baton/core/progress/facet';
import { COUNTED } from '@kindred-baton/core/progress/counted';
import { GROUP_COLUMNS, TURN_SORTS } from '@kindred-baton/core/turns/turn-columns';
import { TURN_STATES, TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { codeSchema, evidenceSchema, idSchema, listOf, minutesSchema, momentSchema, personSchema, placedPageSchema } from '../common.ts';
import { cyclesSchema } from '../cycles/choice.ts';
import { testVersionSchema } from '../tests/test.ts';

/** A value on its way: what it is, whether it is here, and from whom it comes. */
const arrivalSchema = z.object({
  name: z.string(),
  value: z.string().nullable(),
  /** The turn that gives it; null: it comes from the data row. */
  from: z.object({ title: z.string(), leg: z.int(), person: z.string().nullable() }).nullable(),
});
export type Arrival = z.infer<typeof arrivalSchema>;

const turnCardSchema = z.object({
  id: idSchema<'turn'>(),
  title: z.string(),
  test: z.string().nullable(),
  scenario: z.object({ code: z.string(), name: z.string(), rowName: z.string().nullable() }),
  cycle: z.object({ code: z.string(), name: z.string() }),
  leg: z.int(),
  legs: z.int(),
  team: z.string().nullable(),
  assignee: z.string().nullable(),
  state: z.enum(TURN_STATES),
  status: z.enum(TURN_STATUSES),
  isRetest: z.boolean(),
  dueOn: z.string().nullable(),
  changedAt: momentSchema.nullable(),
  arrivals: z.array(arrivalSchema),
  /** For a waiting turn: the turn that has the baton now. */
  holder: z
    .object({
      id: idSchema<'turn'>(),
      nudges: z.int(),
      title: z.string(),
      person: z.string().nullable(),
      status: z.enum(TURN_STATUSES),
      dueOn: z.string().nullable(),
    })
    .nullable(),
  /** For a turn that failed or is blocked, and that nobody tries again yet: by what, in words, and the defects that must be fixed first. */
  stoppedBy: z.object({ words: z.string(), defects: z.array(z.object({ code: z.string(), title: z.string() })) }).nullable(),
  /** For a held turn: by what, as a sentence. */
  heldBy: z.string().nullable(),
  minutes: z.int(),
  /** How often somebody asked for it. */
  nudges: z.int(),
});
export type TurnCard = z.infer<typeof turnCardSchema>;

export const turnsHomeSchema = z.object({
  withYou: z.array(turnCardSchema),
  /** Hers that failed or are blocked: nothing of them is lost from sight until somebody decides. */
  stopped: z.array(turnCardSchema),
  /** Of her lanes: what runners could not do, or saw fail. Whoever of the lane comes first looks at it, or finishes it by hand. */
  leftByRunners: z.array(turnCardSchema),
  onItsWay: z.array(turnCardSchema),
  passedOn: z.object({ passed: z.int(), failed: z.int(), blocked: z.int(), skipped: z.int(), recent: z.array(turnCardSchema) }),
  /** How many more are on their way than are listed. */
  moreOnItsWay: z.int(),
  /** What happened since she last looked; null: never before. */
  since: z
    .object({ at: momentSchema, came: z.int(), retests: z.int(), nudges: z.int(), takenAway: z.int(), defectsFixed: z.int() })
    .nullable(),
  /** Her own share in the cycles that run. */
  mine: z.object({ turns: z.int(), done: z.int(), doneThisWeek: z.int(), minutesDone: z.int(), minutesLeft: z.int(), found: z.int() }),
});
export type TurnsHome = z.infer<typeof turnsHomeSchema>;

export const TURNS_A_PAGE = 60;

/** By the value of a facet: its key, as the progress table has it. */
export const facetFilters = Object.fromEntries(FACET_FILTERS.map((filter) => [filter, z.string().max(200).optional()])) as Record<
  FacetFilter,
  z.ZodOptional<z.ZodString>
>;

/** What narrows a list of turns, beside its cycles. */
export const turnFilters = {
  ...facetFilters,
  requirement: codeSchema.optional(),
  /** A defect: lists the turns at which it was seen. */
  defect: codeSchema.optional(),
  /** Those that were due before today and are not over. */
  late: z.literal('yes').optional(),
  /** Those at which an attempt ended on this day. */
  tried: z.iso.date().optional(),
  /** People have tried it to the end; the last time on that day, where one is said; *said*: and have said what it took. */
  spent: z.union([z.enum(['yes', 'said']), z.iso.date()]).optional(),
  /** Those whose newest attempt ended since a moment, and those that came to hand since. */
  ...{ doneSince: z.iso.datetime({ offset: true }).optional(), readySince: z.iso.datetime({ offset: true }).optional() },
  run: z.coerce.number().int().optional(),
  /** What stands under `status`: turns, or the tests or whole runs that they belong to. */
  counted: z.enum(COUNTED).default('turns'),
  status: listOf(z.enum(TURN_STATUSES)).optional(),
  /** A hold: its kind and key; lists the turns behind it, and those at which it holds. */
  hold: z
    .string()
    .regex(/^(defect|failure|block|idle):[0-9a-f-]{36}$/)
    .optional(),
};

export const turnListQuerySchema = z.object({
  ...turnFilters,
  cycle: cyclesSchema,
  /** Left out: as they are due, then as they follow each other. */
  sort: z.enum(TURN_SORTS).optional(),
  /** What turns stand under, each with all of its turns counted. */
  group: z.enum(GROUP_COLUMNS).optional(),
  page: z.coerce.number().int().min(1).default(1),
});
export type TurnListQuery = z.infer<typeof turnListQuerySchema>;

export const turnListSchema = z.object({
  cycles: z.array(z.object({ code: z.string(), name: z.string() })),
  rows: placedPageSchema,
  /** What the turns of all pages are of. */
  ...{ runs: z.int(), tests: z.int(), minutes: z.int() },
  /** Of the groups that this page shows: how many turns and minutes of work each has over all pages. */
  groups: z.array(z.object({ key: z.string(), turns: z.int(), minutes: z.int() })),
  turns: z.array(turnCardSchema),
});
export type TurnList = z.infer<typeof turnListSchema>;

const stepResultSchema = z.object({
  stepIndex: z.int(),
  outcome: z.enum(STEP_OUTCOMES).nullable(),
  note: z.string(),
  /** Whose word it is: a person, or a pool and its machine. */
  by: z.string(),
  isByRunner: z.boolean(),
  expected: z.string(),
  actual: z.string(),
  unlooked: z.string(),
  tookMs: z.int().nullable(),
});

const attemptSchema = z.object({
  id: idSchema<'attempt'>(),
  number: z.int(),
  person: z.string(),
  isMine: z.boolean(),
  isWithRunners: z.boolean(),
  /** The machine that does it, or did last. */
  runner: z.string().nullable(),
  /** Fixes its fresh values. */
  seed: z.uuid(),
  /** It stopped before its end, and its steps so far can be gone on with. */
  canContinue: z.boolean(),
  /** It was done by the steps that its turn is pinned to now. */
  isOfVersion: z.boolean(),
  /** A runner does it at this moment. */
  isLeased: z.boolean(),
  startedAt: momentSchema,
  finishedAt: momentSchema.nullable(),
  outcome: z.enum(STEP_OUTCOMES).nullable(),
  kept: z.record(z.string(), z.string()),
  environment: z.string(),
  browser: z.string(),
  isFromSheet: z.boolean(),
  /** What people did of it took so many minutes: by its words, and as whoever made it says, who may say so until the cycle is closed. Null while it is under way, and where a runner did all. */
  spent: z.object({ counted: z.number(), said: z.int().nullable(), canSay: z.boolean() }).nullable(),
  results: z.array(stepResultSchema),
  evidence: z.array(evidenceSchema),
});
export type AttemptView = z.infer<typeof attemptSchema>;

/** What an attempt took; null: as its words say. */
export const sayMinutesSchema = z.object({ minutes: minutesSchema.nullable() });

/** All that the guide needs to lead through a turn. */
export const guideSchema = z.object({
  turn: turnCardSchema,
  run: idSchema<'run'>(),
  outcome: z.enum(OUTCOMES),
  version: testVersionSchema.nullable(),
  /** Without a written test: do it, say how it went. */
  isBare: z.boolean(),
  /** What the cycle asks for with an attempt. */
  rules: z.object({ evidence: z.enum(EVIDENCE_RULES), failure: z.array(z.enum(FAILURE_PARTS)) }),
  /** The people of its lane. */
  mates: z.array(personSchema),
  /** A newer agreed version than the pinned one. */
  newerVersion: z.int().nullable(),
  environment: z.string(),
  address: z.string().nullable(),
  today: z.string(),
  workingDays: z.array(z.int()),
  holidays: z.array(z.string()),
  attempts: z.array(attemptSchema),
  defects: z.array(z.object({ code: z.string(), title: z.string(), status: z.enum(DEFECT_STATUSES) })),
  goesTo: z.array(z.object({ name: z.string(), title: z.string(), leg: z.int(), person: z.string().nullable() })),
  /** How each persona starts the application in this environment. */
  starts: z.array(z.object({ persona: z.string(), how: z.string() })),
  /** What whoever laid the scenario out wants testers to know, and as whom the turn is done. */
  note: z.string(),
  persona: z.string().nullable(),
  /** Why no attempt may be made now; null: it may. */
  refusal: z.string().nullable(),
});
export type GuideView = z.infer<typeof guideSchema>;

export const startAttemptSchema = z.object({
  id: idSchema<'attempt'>(),
  browser: z.string().max(300),
  /** The attempt from which it goes on; null: from the first step. */
  continues: idSchema<'attempt'>().nullable().default(null),
});

/** What a runner saw at a step. */
const seenSchema = z.object({
  expected: z.string().max(10_000),
  actual: z.string().max(10_000),
  /** What of the expected result was not looked at. */
  unlooked: z.string().max(10_000),
  tookMs: z.int().min(0).max(86_400_000),
});

export const recordStepSchema = z.object({
  wordId: z.uuid(),
  outcome: z.enum(STEP_OUTCOMES).nullable(),
  note: z.string().max(10_000),
  /** The value kept at this step, where the step keeps one. */
  kept: z.string().max(2_000).optional(),
  at: momentSchema,
  seen: seenSchema.optional(),
});
export type RecordStep = z.infer<typeof recordStepSchema>;

/** Gzip (RFC 1952) of JSON, in base64. */
export const keepCaptureSchema = z.object({ gzip: z.base64().min(1).max(4_000_000).startsWith('H4sI', 'It is not gzip.') });

export const finishedSchema = z.object({
  outcome: z.enum(STEP_OUTCOMES),
  next: z.array(z.object({ title: z.string(), person: z.string().nullable() })),
});
export type Finished = z.infer<typeof finishedSchema>;

export const passTurnSchema = z.object({ personId: idSchema<'person'>(), word: z.string().trim().max(2_000).default('') });

export const liftBlockSchema = z.object({ word: z.string().trim().max(2_000).default('') });

export const nudgedSchema = z.object({ count: z.int(), to: z.string() });
