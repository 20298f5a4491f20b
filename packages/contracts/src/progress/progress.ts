import { z } from 'zod';
import { TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { COUNTED, PARTS } from '@kindred-baton/core/progress/counted';
import { FACETS } from '@kindred-baton/core/progress/facet';
import { LINE_SORTS } from '@kindred-baton/core/progress/sort-lines';
import { codeSchema, countsSchema, listOf } from '../common.ts';
import { cycleChoiceSchema } from '../cycles/choice.ts';
import { facetFilters } from '../turns/turn.ts';

/** What narrows the table beside its scope, by the key of a facet's value; the cycles are chosen apart. */
const { cycle: _cycle, node: _node, ...narrowing } = facetFilters;

export const progressQuerySchema = z.object({
  ...narrowing,
  cycle: cycleChoiceSchema.optional(),
  rows: z.enum(FACETS).default('process'),
  columns: z.enum(FACETS).default('team'),
  scope: codeSchema.optional(),
  counted: z.enum(COUNTED).default('turns'),
  /** What of each bar is shown and sorted by. */
  parts: listOf(z.enum(PARTS)).default(PARTS),
  /** Left out: in the order of the facet itself. */
  sort: z.enum(LINE_SORTS).optional(),
  /** Where the page of rows and that of columns begin; the table comes in pages of ROWS_A_PAGE and COLUMNS_A_PAGE. */
  fromRow: z.coerce.number().int().min(0).default(0),
  fromColumn: z.coerce.number().int().min(0).default(0),
});

export const ROWS_A_PAGE = 40;
export const COLUMNS_A_PAGE = 24;
export type ProgressQuery = z.infer<typeof progressQuerySchema>;

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
  /** What they are: where a process has nothing below it, its tests. */
  facet: z.enum(FACETS),
  /** A turn can stand under several of them: the total counts it once. */
  isMany: z.boolean(),
  from: z.int(),
  /** How many there are in all. */
  size: z.int(),
  /** With what each counts over all columns, or over all rows. */
  entries: z.array(z.object({ key: z.string(), name: z.string(), group: z.string(), counts: countsSchema })),
});
export type ProgressAxis = z.infer<typeof axisSchema>;

export const progressSchema = z.object({
  /** Those that are counted; none: there is none yet, or none is of the wanted kind. */
  chosen: z.array(cycleSpanSchema),
  cycles: z.array(z.object({ code: z.string(), name: z.string() })),
  /** From the top of the map to what is looked at; empty: all of it. */
  path: z.array(z.object({ code: z.string(), name: z.string() })),
  rows: axisSchema,
  columns: axisSchema,
  /** The cells of this page that have turns, by the statuses that there are; places within the page. */
  cells: z.array(z.object({ row: z.int(), column: z.int(), counts: z.partialRecord(z.enum(TURN_STATUSES), z.int()) })),
  total: countsSchema,
});
export type ProgressView = z.infer<typeof progressSchema>;
