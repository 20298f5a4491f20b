import { z } from 'zod';

export const FIND_KINDS = ['value', 'node', 'test', 'scenario', 'turn', 'cycle', 'defect'] as const;

export const findQuerySchema = z.object({ q: z.string().trim().max(100).default('') });

export const foundSchema = z.object({
  found: z.array(z.object({ kind: z.enum(FIND_KINDS), code: z.string(), name: z.string(), context: z.string(), path: z.string() })),
});
export type Found = z.infer<typeof foundSchema>;
export type FoundItem = Found['found'][number];
