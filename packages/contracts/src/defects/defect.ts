import { z } from 'zod';
import { asksWhy, DEFECT_KINDS, DEFECT_LINK_KINDS, DEFECT_STATUSES, SEVERITIES } from '@kindred-baton/core/defects/defect';
import { HAPPENINGS } from '@kindred-baton/core/defects/happenings';
import { TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { addressSchema, codeSchema, daySchema, idSchema, momentSchema, placedPageSchema, prioritySchema } from '../common.ts';
import { evidenceSchema } from '../common.ts';

const linkTargetSchema = z.string().trim().min(1, 'Say which defect, or where.').max(500);
const defectLinkSchema = z.union([
  z.object({ kind: z.literal('tracked at'), to: linkTargetSchema.pipe(addressSchema) }),
  z.object({ kind: z.enum(DEFECT_LINK_KINDS).exclude(['tracked at']), to: linkTargetSchema }),
]);

const defectBase = {
  code: z.string(),
  title: z.string(),
  kind: z.enum(DEFECT_KINDS),
  severity: z.enum(SEVERITIES),
  priority: prioritySchema,
  status: z.enum(DEFECT_STATUSES),
  team: z.string().nullable(),
  cycle: z.object({ code: z.string(), name: z.string() }),
  foundAt: momentSchema,
  foundBy: z.string(),
  assignee: z.string().nullable(),
  dueOn: z.string().nullable(),
};

const defectItemSchema = z.object({ ...defectBase, node: z.string().nullable(), waiting: z.int() });
export type DefectListItem = z.infer<typeof defectItemSchema>;

export interface DefectList {
  readonly defects: DefectListItem[];
}

export const DEFECTS_A_PAGE = 100;
/** How many cards a column of the board shows, and how many columns of people who fix. */
export const CARDS_A_COLUMN = 15;
export const MOST_FIXERS = 20;
/** How many of the turns at which it was seen a defect shows. */
export const TURNS_OF_DEFECT = 50;

export const defectQuerySchema = z
  .object({
    /** Only what was found at this branch of the map, and what was found nowhere on it. */
    scope: codeSchema.optional(),
    team: z.string().max(200).optional(),
    with: z.string().max(200).optional(),
    /** Those that are over too. */
    show: z.literal('all').optional(),
    view: z.enum(['list', 'board']).default('list'),
    /** Only what stands in this column of the board. */
    column: z.string().max(220).optional(),
    cycle: codeSchema.optional(),
    severity: z.enum(SEVERITIES).optional(),
    /** Only those to which this happened, at least once; on that day, where one is said. */
    ...{ happened: z.enum(HAPPENINGS).optional(), on: daySchema.optional() },
    page: z.coerce.number().int().min(1).default(1),
  })
  .refine(({ on, happened }) => on === undefined || happened !== undefined, {
    message: 'Say what happened on that day.',
    path: ['happened'],
  });
export type DefectQuery = z.infer<typeof defectQuerySchema>;

/** A page of the defects, the most turns waiting first, or the board; its first line is over all of the branch. */
export const defectPageSchema = z.object({
  /** Of the branch: not over, and the turns that wait behind any of them, each once. */
  ...{ open: z.int(), waiting: z.int() },
  rows: placedPageSchema,
  defects: z.array(defectItemSchema),
  columns: z.array(
    z.object({
      ...{ key: z.string(), who: z.string(), does: z.string(), to: z.enum(DEFECT_STATUSES).nullable() },
      /** How many it has; those that most turns wait for are here. */
      total: z.int(),
      defects: z.array(defectItemSchema),
    }),
  ),
  /** People who fix and have no column here, and how many defects are theirs. */
  more: z.object({ people: z.int(), defects: z.int() }),
  /** Who can be chosen. */
  ...{ teams: z.array(z.string()), people: z.array(z.string()) },
});
export type DefectPage = z.infer<typeof defectPageSchema>;

export const defectDetailSchema = z.object({
  ...defectBase,
  foundById: idSchema<'person'>(),
  /** Where it was seen, if at no turn. */
  seenAt: z.object({ code: z.string(), name: z.string() }).nullable(),
  id: idSchema<'defect'>(),
  stepIndex: z.int(),
  expected: z.string(),
  seen: z.string(),
  steps: z.array(z.string()),
  environment: z.string(),
  browser: z.string(),
  persona: z.string(),
  teamId: idSchema<'team'>().nullable(),
  assigneeId: idSchema<'person'>().nullable(),
  links: z.array(defectLinkSchema),
  /** The run in which it was found, and the values that it had carried by then. */
  run: z.object({ id: idSchema<'run'>(), number: z.int(), name: z.string(), scenario: z.string() }).nullable(),
  baton: z.array(z.object({ name: z.string(), value: z.string() })),
  talk: z.array(z.object({ id: z.uuid(), by: z.string(), at: momentSchema, text: z.string() })),
  reason: z.string(),
  evidence: z.array(evidenceSchema),
  /** At how many turns it was seen; the first of them are here. */
  seenAtTurns: z.int(),
  turns: z.array(
    z.object({
      id: idSchema<'turn'>(),
      title: z.string(),
      status: z.enum(TURN_STATUSES),
      scenario: z.string(),
      assignee: z.string().nullable(),
      isRetestDue: z.boolean(),
    }),
  ),
  waiting: z.object({ turns: z.int(), runs: z.int(), teams: z.int(), minutes: z.int() }),
  history: z.array(z.object({ action: z.string(), by: z.string().nullable(), at: momentSchema })),
});
export type DefectDetail = z.infer<typeof defectDetailSchema>;

const toldSchema = z.object({
  id: idSchema<'defect'>(),
  title: z.string().trim().min(3, 'Say in a few words what is wrong.').max(200),
  kind: z.enum(DEFECT_KINDS),
  severity: z.enum(SEVERITIES),
  priority: prioritySchema,
  expected: z.string().trim().max(10_000),
  seen: z.string().trim().min(1, 'Say what you saw.').max(10_000),
});
/** At a step of an own attempt. */
export const logDefectSchema = toldSchema.extend({ attemptId: idSchema<'attempt'>(), stepIndex: z.int().min(0) });
export type LogDefect = z.infer<typeof logDefectSchema>;
/** Seen at no turn, but somewhere on the map while a cycle was tested. */
export const logDefectApartSchema = toldSchema.extend({ cycle: codeSchema, node: codeSchema });
export type LogDefectApart = z.infer<typeof logDefectApartSchema>;

export const moveDefectSchema = z
  .object({ from: z.enum(DEFECT_STATUSES), to: z.enum(DEFECT_STATUSES), reason: z.string().trim().max(2_000).default('') })
  .refine((move) => !asksWhy(move.to) || move.reason !== '', {
    error: ({ input }) => `Say why it is ${(input as { to: string }).to}.`,
    path: ['reason'],
  });
export type MoveDefect = z.infer<typeof moveDefectSchema>;

/** What a defect is; what is left out stays as it is. */
export const changeDefectSchema = z.object({
  title: logDefectSchema.shape.title.optional(),
  kind: z.enum(DEFECT_KINDS).optional(),
  severity: z.enum(SEVERITIES).optional(),
  priority: prioritySchema.optional(),
  teamId: idSchema<'team'>().nullable().optional(),
  assigneeId: idSchema<'person'>().nullable().optional(),
  dueOn: daySchema.nullable().optional(),
  links: z.array(defectLinkSchema).max(50).optional(),
});
export type ChangeDefect = z.infer<typeof changeDefectSchema>;

export const sayDefectSchema = z.object({ id: z.uuid(), text: z.string().trim().min(1, 'Say something.').max(10_000) });

/** A defect in the making: which are likely the same? */
export const likelySameQuerySchema = z.object({
  attemptId: idSchema<'attempt'>(),
  stepIndex: z.coerce.number().int().min(0),
  title: z.string().max(200),
  seen: z.string().max(10_000),
});
export type LikelySameQuery = z.infer<typeof likelySameQuerySchema>;

export const likelySameSchema = z.object({
  likely: z.array(
    z.object({
      code: z.string(),
      title: z.string(),
      status: z.enum(DEFECT_STATUSES),
      likeness: z.number(),
      why: z.array(z.string()),
      waiting: z.int(),
    }),
  ),
});
export type LikelySameView = z.infer<typeof likelySameSchema>;

/** Joins a failing attempt to a defect that is known. */
export const joinDefectSchema = z.object({ code: codeSchema, attemptId: idSchema<'attempt'>(), stepIndex: z.int().min(0) });
export type JoinDefect = z.infer<typeof joinDefectSchema>;
