import { z } from 'zod';
import { FACETS } from '@kindred-baton/core/progress/facet';
import { codeSchema, countsSchema, idSchema, momentSchema } from '../common.ts';

export const progressQuerySchema = z.object({
  cycle: codeSchema.optional(),
  rows: z.enum(FACETS).default('process'),
  columns: z.enum(FACETS).default('team'),
  scope: codeSchema.optional(),
});
export type ProgressQuery = z.infer<typeof progressQuerySchema>;

const holdSchema = z.object({
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

export const progressSchema = z.object({
  cycle: z.object({ code: z.string(), name: z.string(), state: z.string(), startsOn: z.string(), endsOn: z.string() }).nullable(),
  cycles: z.array(z.object({ code: z.string(), name: z.string() })),
  rows: z.array(z.object({ key: z.string(), name: z.string(), group: z.string() })),
  columns: z.array(z.object({ key: z.string(), name: z.string() })),
  /** Row by row, column by column. */
  cells: z.array(z.array(countsSchema)),
  total: countsSchema,
  holds: z.array(holdSchema),
  /** Turns waiting behind any hold, each counted once. */
  waitingBehindHolds: z.int(),
});
export type ProgressView = z.infer<typeof progressSchema>;
