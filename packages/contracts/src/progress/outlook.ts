import { DECISION_KINDS } from '@kindred-baton/core/progress/decision';
import { z } from 'zod';
import { codeSchema, daySchema, idSchema, momentSchema } from '../common.ts';
import { oneCycleSchema } from '../cycles/choice.ts';
import { exitResultSchema } from '../cycles/cycle.ts';

export const outlookQuerySchema = z.object({ cycle: oneCycleSchema });
export type OutlookQuery = z.infer<typeof outlookQuerySchema>;

/** Of so many, the first few. */
const someOf = <Item extends z.ZodType>(item: Item) => z.object({ total: z.int(), first: z.array(item) });
const codeAndTitleSchema = z.object({ code: z.string(), title: z.string() });
export const LEFT_OPEN_SHOWN = 8;

/** What leaving runs out leaves open. */
const leftOpenSchema = z.object({
  /** What would be left out. */
  ...{ turns: z.int(), runs: z.int() },
  /** Not verified, and then without a turn that could show it. */
  requirements: someOf(codeAndTitleSchema),
  /** Critical, not signed off, and then with fewer turns. */
  nodes: someOf(codeAndTitleSchema),
});
export type LeftOpen = z.infer<typeof leftOpenSchema>;

const oddsSchema = z.object({
  ...{ even: daySchema.nullable(), late: daySchema.nullable() },
  inTime: z.number().min(0, 'A share lies from 0 to 1.').max(1, 'A share lies from 0 to 1.'),
});

const saidSchema = {
  kind: z.enum(DECISION_KINDS),
  /** What was decided, in words. */
  words: z.string().trim().min(1, 'Say what is decided.').max(300, 'Say it in at most 300 characters.'),
  why: z.string().trim().min(1, 'Say why, for who reads it later.').max(4_000, 'Say why in at most 4,000 characters.'),
  /** What the forecast said as it stood, and with what is decided. */
  ...{ before: oddsSchema, after: oddsSchema },
};

export const keepDecisionSchema = z.object({ id: idSchema<'decision'>(), cycle: codeSchema, ...saidSchema });
export type KeepDecision = z.infer<typeof keepDecisionSchema>;

const decisionSchema = z.object({
  id: idSchema<'decision'>(),
  ...saidSchema,
  ...{ plannedOn: z.string(), by: z.string(), at: momentSchema },
  /** As it stood: turns of the cycle, and those that were through. */
  ...{ turns: z.int(), through: z.int() },
  /** Where something is left out. */
  left: leftOpenSchema.nullable(),
  /** When it was taken back, and by whom. */
  takenBack: z.object({ by: z.string(), at: momentSchema }).nullable(),
});
export type DecisionView = z.infer<typeof decisionSchema>;

export const outlookSchema = z.object({
  cycle: z.string().nullable(),
  /** Of the whole cycle. */
  criteria: z.array(exitResultSchema),
  /** Leaving out what has low priority and nobody has begun. */
  left: leftOpenSchema,
  /** Not verified yet, and critical nodes that are not signed off. */
  unmet: z.object({ requirements: z.int(), nodes: z.int() }),
  /** The newest first. */
  decisions: z.array(decisionSchema),
});
export type Outlook = z.infer<typeof outlookSchema>;
