import { z } from 'zod';
import { TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { FACETS } from '@kindred-baton/core/progress/facet';
import { codeSchema, countsSchema, idSchema, momentSchema } from '../common.ts';

export const progressQuerySchema = z.object({
  cycle: codeSchema.optional(),
  rows: z.enum(FACETS).default('process'),
  columns: z.enum(FACETS).default('team'),
  scope: codeSchema.optional(),
  /** Where the page of rows and that of columns begin; the table comes in pages of ROWS_A_PAGE and COLUMNS_A_PAGE. */
  fromRow: z.coerce.number().int().min(0).default(0),
  fromColumn: z.coerce.number().int().min(0).default(0),
  /** Only what holds the baton at this team; NONE: at none. */
  holdsOf: z.string().max(200).optional(),
});
export const ROWS_A_PAGE = 40;
export const COLUMNS_A_PAGE = 24;
export type ProgressQuery = z.infer<typeof progressQuerySchema>;

export const holdSchema = z.object({
  kind: z.enum(['defect', 'failure', 'block', 'idle']),
  key: z.string(),
  title: z.string(),
  detail: z.string(),
  waiting: z.int(),
  runs: z.int(),
  teams: z.int(),
  minutes: z.int(),
  since: momentSchema.nullable(),
  /** The defect or the turn that holds; null: turns of a person. */
  opens: z
    .discriminatedUnion('kind', [
      z.object({ kind: z.literal('defect'), code: z.string() }),
      z.object({ kind: z.literal('turn'), id: idSchema<'turn'>() }),
    ])
    .nullable(),
});
export type HoldView = z.infer<typeof holdSchema>;

/** The cycle that is looked at. */
export const cycleSpanSchema = z.object({
  code: z.string(),
  name: z.string(),
  state: z.string(),
  startsOn: z.string(),
  endsOn: z.string(),
});

/** A page of rows or columns. */
const axisSchema = z.object({
  from: z.int(),
  /** How many there are in all. */
  size: z.int(),
  entries: z.array(z.object({ key: z.string(), name: z.string(), group: z.string() })),
});
export type ProgressAxis = z.infer<typeof axisSchema>;

export const progressSchema = z.object({
  cycle: cycleSpanSchema.nullable(),
  cycles: z.array(z.object({ code: z.string(), name: z.string() })),
  rows: axisSchema,
  columns: axisSchema,
  /** The cells of this page that have turns, by the statuses that there are; places within the page. */
  cells: z.array(z.object({ row: z.int(), column: z.int(), counts: z.partialRecord(z.enum(TURN_STATUSES), z.int()) })),
  /** Of each column of this page, over all rows. */
  columnTotals: z.array(countsSchema),
  total: countsSchema,
  /** Those behind which most wait; at most so many are shown. */
  holds: z.array(holdSchema),
  /** Holds with turns waiting behind them, and those with none. */
  held: z.int(),
  quiet: z.int(),
  /** The holds that are not shown, by team. */
  moreHolds: z.array(z.object({ key: z.string(), team: z.string(), holds: z.int(), waiting: z.int() })),
  /** Turns waiting behind any hold, each counted once. */
  waitingBehindHolds: z.int(),
});
export type ProgressView = z.infer<typeof progressSchema>;
