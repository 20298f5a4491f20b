import { z } from 'zod';
import { codeSchema, idSchema, momentSchema } from '../common.ts';
import { cycleChoiceSchema } from '../cycles/choice.ts';

export const holdsQuerySchema = z.object({
  cycle: cycleChoiceSchema.optional(),
  scope: codeSchema.optional(),
  /** Only what holds the baton at this team; NONE: at none. */
  holdsOf: z.string().max(200).optional(),
});
export type HoldsQuery = z.infer<typeof holdsQuerySchema>;

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

/** Where the batons of the chosen cycles are held. */
export const holdsSchema = z.object({
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
export type HoldsView = z.infer<typeof holdsSchema>;
