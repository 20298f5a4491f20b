import { z } from 'zod';
import { codeSchema, momentSchema } from '../common.ts';
import { oneCycleSchema } from '../cycles/choice.ts';

export const sinceQuerySchema = z.object({
  cycle: oneCycleSchema,
  scope: codeSchema.optional(),
  /** Without one: a day ago. */
  since: z.iso.datetime({ offset: true }).optional(),
});
export type SinceQuery = z.infer<typeof sinceQuerySchema>;

const toldDefectSchema = z.object({ code: z.string(), title: z.string() });

/** What changed in a cycle since a moment. */
export const sinceSchema = z.object({
  since: momentSchema,
  /** Turns whose newest attempt ended since then, by what it came to. */
  ...{ passed: z.int(), failed: z.int(), blocked: z.int() },
  /** Turns that came to hand since then, whatever became of them. */
  ready: z.int(),
  /** Defects that were found, and those that were said to be fixed; by number. */
  ...{ found: z.array(toldDefectSchema), fixed: z.array(toldDefectSchema) },
});
export type Since = z.infer<typeof sinceSchema>;
