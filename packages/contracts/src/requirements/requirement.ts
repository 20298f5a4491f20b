import { z } from 'zod';
import { REQUIREMENT_GAPS } from '@kindred-baton/core/requirements/filter-requirements';
import { REQUIREMENT_KINDS, REQUIREMENT_STATES } from '@kindred-baton/core/requirements/requirement';
import { codeSchema, idSchema, nameSchema, placedPageSchema, prioritySchema, standingSchema } from '../common.ts';

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

/** How many requirements are shown at once, and in a matrix how many down and how many tests across. */
export const REQUIREMENTS_A_PAGE = 100;
export const MATRIX_ROWS = 30;
export const MATRIX_COLUMNS = 22;

const pageSchema = z.coerce.number().int().min(1).default(1);

export const requirementQuerySchema = z.object({
  /** Only what is about this branch of the map. */
  scope: codeSchema.optional(),
  kind: z.enum(REQUIREMENT_KINDS).optional(),
  words: z.string().max(200).optional(),
  show: z.enum(REQUIREMENT_GAPS).optional(),
  view: z.enum(['list', 'matrix']).default('list'),
  page: pageSchema,
  /** Which page of the tests across a matrix. */
  across: pageSchema,
  /** One that is told in full, wherever it stands. */
  requirement: z.string().max(100).optional(),
});
export type RequirementQuery = z.infer<typeof requirementQuerySchema>;

const listedRequirementSchema = requirementSchema.omit({ description: true, nodes: true, tests: true }).extend({
  nodes: z.array(z.string()),
  tests: z.array(z.string()),
  /** Over what its tests were counted. */
  proof: z.object({ cycles: z.array(z.object({ cycle: z.string(), turns: z.int(), passed: z.int() })), untried: z.int() }),
});
export type ListedRequirement = z.infer<typeof listedRequirementSchema>;

/** A page of the requirements of a branch; as a matrix with a page of its tests across; and the gaps on both sides, over all pages. */
export const traceabilitySchema = z.object({
  /** In the whole programme. */
  all: z.int(),
  /** Of what the branch, the kind and the words leave. */
  left: z.int(),
  gaps: z.record(z.enum(REQUIREMENT_GAPS), z.int()),
  /** Tests of the branch that serve no requirement. */
  unserved: z.int(),
  rows: placedPageSchema,
  requirements: z.array(listedRequirementSchema),
  columns: placedPageSchema,
  tests: z.array(
    z.object({
      code: z.string(),
      name: nameSchema,
      standing: standingSchema,
      requirements: z.array(z.string()),
    }),
  ),
  chosen: requirementSchema.nullable(),
  /** The code that is proposed for a new one. */
  nextCode: z.string(),
});
export type Traceability = z.infer<typeof traceabilitySchema>;

/** What somebody typed of tests, by codes or names. */
export const readTestLinksSchema = z.object({ text: z.string().max(50_000) });
export const testLinksSchema = z.object({ codes: z.array(z.string()) });
