import { z } from 'zod';
import { codeSchema, minutesSchema } from '../common.ts';
import { cycleChoiceSchema } from '../cycles/choice.ts';

const EFFORT_BY = ['team', 'process', 'day'] as const;
export type EffortBy = (typeof EFFORT_BY)[number];

export const effortQuerySchema = z.object({
  /** Left out: the last three. */
  cycle: cycleChoiceSchema.optional(),
  scope: codeSchema.optional(),
  by: z.enum(EFFORT_BY).default('team'),
});
export type EffortQuery = z.infer<typeof effortQuerySchema>;

/** Turns that people tried to the end, and what those were planned and took, in minutes of all. */
const effortCellSchema = z.object({ tried: z.int(), planned: z.number(), spent: z.number() });
export type EffortCell = z.infer<typeof effortCellSchema>;

export const effortSchema = z.object({
  cycles: z.array(z.object({ code: z.string(), name: z.string() })),
  /** The oldest first, as they are read beside each other. */
  chosen: z.array(z.object({ code: z.string(), name: z.string() })),
  /** A cell for each of the chosen cycles; of days the newest first. */
  lines: z.array(z.object({ key: z.string(), name: z.string(), cells: z.array(effortCellSchema) })),
  totals: z.array(effortCellSchema),
  /** In how many turns of each of the chosen cycles somebody said what it took. */
  corrected: z.array(z.int()),
});
export type Effort = z.infer<typeof effortSchema>;

const minuteProposalSchema = z.object({
  test: codeSchema,
  name: z.string(),
  ...{ planned: z.int(), proposed: z.int() },
  /** The turns that say so, and the shortest and the longest of them, in minutes. */
  ...{ of: z.int(), shortest: z.number(), longest: z.number() },
});
export type MinuteProposal = z.infer<typeof minuteProposalSchema>;

export const MOST_PROPOSALS = 500;
export const minuteProposalsSchema = z.object({
  /** Those that differ most first; at most MOST_PROPOSALS. */
  proposals: z.array(minuteProposalSchema),
  /** How many tests there are proposals for, are planned well, and were tried too seldom to say. */
  ...{ total: z.int(), fitting: z.int(), seldom: z.int() },
});
export type MinuteProposals = z.infer<typeof minuteProposalsSchema>;

export const takeMinutesSchema = z.object({
  changes: z
    .array(z.object({ test: codeSchema, from: minutesSchema, to: minutesSchema }))
    .min(1, 'Choose at least one test.')
    .max(MOST_PROPOSALS, `At most ${MOST_PROPOSALS} at once.`),
});
export type TakeMinutes = z.infer<typeof takeMinutesSchema>;

export const tookMinutesSchema = z.object({
  changed: z.array(z.string()),
  /** Planned otherwise by now, or gone. */
  left: z.array(z.string()),
});
export type TookMinutes = z.infer<typeof tookMinutesSchema>;
