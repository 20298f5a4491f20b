import { z } from 'zod';
import { REQUIREMENT_KINDS, REQUIREMENT_STATES } from '@kindred-baton/core/requirements/requirement';
import { codeSchema, idSchema, nameSchema, prioritySchema, standingSchema } from '../common.ts';

const placeSchema = z.object({ code: z.string(), name: z.string() });

const requirementSchema = z.object({
  id: idSchema<'requirement'>(),
  code: z.string(),
  title: z.string(),
  description: z.string(),
  kind: z.enum(REQUIREMENT_KINDS),
  priority: prioritySchema,
  state: z.enum(REQUIREMENT_STATES),
  nodes: z.array(placeSchema),
  tests: z.array(placeSchema.extend({ standing: standingSchema })),
});
export type RequirementItem = z.infer<typeof requirementSchema>;

export interface RequirementList {
  readonly requirements: RequirementItem[];
}

/** All of a requirement, its links included; what is left out stays as it is. */
export const saveRequirementSchema = z.object({
  code: codeSchema,
  title: z.string().trim().min(1, 'Say what must hold.').max(500, 'At most 500 characters.'),
  description: z.string().max(20_000).default(''),
  kind: z.enum(REQUIREMENT_KINDS),
  priority: prioritySchema,
  nodes: z.array(codeSchema).max(500),
  tests: z.array(codeSchema).max(2_000),
});
export type SaveRequirement = z.infer<typeof saveRequirementSchema>;

export const linkTestSchema = z.object({ requirement: codeSchema, test: codeSchema, isLinked: z.boolean() });

/** Traceability as a matrix: requirements down, the tests of the scope across, and the gaps on both sides. */
export const traceabilitySchema = z.object({
  requirements: z.array(requirementSchema),
  tests: z.array(
    z.object({
      code: z.string(),
      name: nameSchema,
      node: z.string(),
      standing: standingSchema,
      requirements: z.array(z.string()),
    }),
  ),
});
export type Traceability = z.infer<typeof traceabilitySchema>;
