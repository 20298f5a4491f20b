import { z } from 'zod';
import type { TestFacet } from '@kindred-baton/core/tests/facets';
import { TEST_FACET_NAMES } from '@kindred-baton/core/tests/facets';
import { TEST_FINDING_WEIGHTS } from '@kindred-baton/core/tests/findings/finding';
import { RUN_BY, VERSION_STATES } from '@kindred-baton/core/tests/version';
import { codeSchema, codedSchema, idSchema, prioritySchema, standingSchema } from '../common.ts';

/** A list in an address: values separated by bars. */
const listParam = z
  .string()
  .max(4_000)
  .optional()
  .transform((text) => text?.split('|').filter((value) => value !== ''));

const TEST_SORTS = ['code', 'name', 'team', 'minutes', 'used'] as const;
export const TESTS_A_PAGE = 100;

/** What a view of the library asks for. */
export const testFilterSchema = z.object({
  q: z.string().max(200).optional(),
  scope: z.string().max(40).optional(),
  ...(Object.fromEntries(TEST_FACET_NAMES.map((name) => [name, listParam])) as Record<TestFacet, typeof listParam>),
  sort: z.enum(TEST_SORTS).optional(),
  page: z.coerce.number().int().min(0).max(1_000).default(0),
});
export type TestFilter = z.infer<typeof testFilterSchema>;

const testListItemSchema = codedSchema.extend({
  node: z.object({ code: z.string(), name: z.string() }),
  team: z.string().nullable(),
  application: z.string().nullable(),
  version: z.int(),
  state: z.enum(VERSION_STATES),
  priority: prioritySchema,
  runBy: z.enum(RUN_BY),
  tags: z.array(z.string()),
  minutes: z.int(),
  usedIn: z.int(),
  serves: z.int(),
  standing: standingSchema,
});

const facetCountSchema = z.object({ key: z.string(), name: z.string(), count: z.int() });

export const testListSchema = z.object({
  /** How many there are in all, and how many are found. */
  all: z.int(),
  total: z.int(),
  page: z.int(),
  tests: z.array(testListItemSchema),
  facets: z.record(z.enum(TEST_FACET_NAMES), z.array(facetCountSchema)),
});
export type TestList = z.infer<typeof testListSchema>;
export type TestListItem = TestList['tests'][number];

const tagSchema = z
  .string()
  .trim()
  .min(1)
  .max(40)
  .regex(/^[^|,]+$/, 'A tag has no comma and no bar.');

/** The same change of many tests; what is absent stays. */
export const changeTestsSchema = z.object({
  codes: z.array(codeSchema).min(1).max(20_000),
  change: z.object({
    node: codeSchema.optional(),
    teamId: idSchema<'team'>().nullable().optional(),
    applicationId: idSchema<'application'>().nullable().optional(),
    priority: prioritySchema.optional(),
    runBy: z.enum(RUN_BY).optional(),
    addTags: z.array(tagSchema).max(20).optional(),
    removeTags: z.array(tagSchema).max(20).optional(),
    isRetired: z.boolean().optional(),
  }),
});
export type ChangeTests = z.infer<typeof changeTestsSchema>;

export const agreeTestsSchema = z.object({ codes: z.array(codeSchema).min(1).max(20_000) });
/** How many drafts were agreed, and which tests were left as they are: without a draft, or with one that has no steps. */
export const agreedTestsSchema = z.object({ agreed: z.int(), withoutDraft: z.int(), withoutSteps: z.array(z.string()) });

/** What is worth a look over the library. */
export const libraryFindingsSchema = z.object({
  examined: z.int(),
  rules: z.array(z.object({ rule: z.string(), title: z.string(), weight: z.enum(TEST_FINDING_WEIGHTS), count: z.int(), waived: z.int() })),
  findings: z.array(
    z.object({
      test: z.object({ code: z.string(), name: z.string() }),
      rule: z.string(),
      weight: z.enum(TEST_FINDING_WEIGHTS),
      steps: z.array(z.int()),
      about: z.string(),
      message: z.string(),
      wayOut: z.string(),
      waived: z.string().nullable(),
    }),
  ),
  more: z.int(),
  clones: z.array(z.object({ length: z.int(), count: z.int(), tests: z.array(z.string()), first: z.string() })),
});
export type LibraryFindings = z.infer<typeof libraryFindingsSchema>;

export const findingFilterSchema = z.object({ scope: z.string().max(40).optional(), rule: z.string().max(100).optional() });
export type FindingFilter = z.infer<typeof findingFilterSchema>;
