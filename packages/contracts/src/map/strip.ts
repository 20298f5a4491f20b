import { z } from 'zod';
import { codeSchema, idSchema } from '../common.ts';

/** The branch whose next level is drawn too. */
export const stripQuerySchema = z.object({ branch: codeSchema.optional() });
export type StripQuery = z.infer<typeof stripQuerySchema>;

/** The strip: what is drawn of the map, each node after its parent, with its outcomes in the current cycle. */
export const stripSchema = z.object({
  cycle: z.object({ id: idSchema<'cycle'>(), code: z.string(), name: z.string() }).nullable(),
  /** By columns: core/progress/strip.ts packs and unpacks them. */
  nodes: z.object({
    ...{ codes: z.string(), names: z.string(), parents: z.string(), depths: z.string(), leaves: z.string(), counts: z.string() },
  }),
  /** From the top to the branch that was asked for. */
  path: z.array(z.string()),
});
export type StripView = z.infer<typeof stripSchema>;

/** Every node of the map in map order, by columns; a parent is a place before, −1 at the top. */
export const outlineSchema = z.object({ codes: z.array(z.string()), names: z.array(z.string()), parents: z.array(z.int()) });
export type OutlineView = z.infer<typeof outlineSchema>;
