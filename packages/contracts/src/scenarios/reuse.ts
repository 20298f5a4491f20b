import { z } from 'zod';
import { FINDING_WEIGHTS } from '@kindred-baton/core/scenarios/findings/finding';
import { SCENARIO_STATES } from '@kindred-baton/core/scenarios/scenario';
import { VERSION_STATES } from '@kindred-baton/core/tests/version';
import { codeSchema, idSchema, momentSchema } from '../common.ts';
import { fieldSchema } from '../tests/test.ts';

const placeSchema = z.object({ code: z.string(), name: z.string() });

/** What the chain finder is asked: a test or a value, and what is there without a test (names with a bar between them). */
export const findChainSchema = z.object({
  test: codeSchema.optional(),
  value: z.string().trim().min(1).max(100).optional(),
  have: z.string().max(4_000).optional(),
});
export type FindChain = z.infer<typeof findChainSchema>;

export const foundChainSchema = z.object({
  /** null: nothing was asked, or no test is (or gives) the goal. */
  chain: z
    .object({
      legs: z.array(
        z.object({
          test: placeSchema.extend({ minutes: z.int(), team: z.string().nullable(), stream: z.string().nullable() }),
          gives: z.array(z.object({ value: z.string(), to: z.string() })),
        }),
      ),
      minutes: z.int(),
      missing: z.array(
        z.object({
          need: fieldSchema,
          neededBy: z.array(z.string()),
          why: z.enum(['nothing gives it', 'only what needs it gives it']),
          own: z.string().nullable(),
        }),
      ),
      isCheapest: z.boolean(),
      /** Streams that it draws on beside the goal's own. */
      otherStreams: z.array(z.string()),
    })
    .nullable(),
  /** Every value that some test gives, to choose from. */
  values: z.array(z.string()),
  tests: z.array(placeSchema),
});
export type FoundChainView = z.infer<typeof foundChainSchema>;

export const legProposalsSchema = z.object({
  legs: z.array(
    z.object({
      leg: idSchema<'leg'>(),
      proposals: z.array(z.object({ ...placeSchema.shape, team: z.string().nullable(), score: z.number(), reasons: z.array(z.string()) })),
    }),
  ),
});
export type LegProposals = z.infer<typeof legProposalsSchema>;

const findingSchema = z.object({
  rule: z.string(),
  weight: z.enum(FINDING_WEIGHTS),
  leg: z.string(),
  value: z.string().optional(),
  message: z.string(),
});

/** A review asks for a test's newest version, or for another test in its place. */
export const changeReviewQuerySchema = z.object({ test: codeSchema, by: codeSchema.optional() });

export const changeReviewSchema = z.object({
  test: placeSchema,
  /** What would come in its place. */
  by: placeSchema.extend({ version: z.int(), state: z.enum(VERSION_STATES) }).nullable(),
  differences: z.array(z.string()),
  scenarios: z.array(
    placeSchema.extend({
      state: z.enum(SCENARIO_STATES),
      /** 1-based legs that use the test, and the version that they are drawn with. */
      legs: z.array(z.int()),
      version: z.int(),
      isTaken: z.boolean(),
      verdict: z.enum(['fits', 'needs a look', 'breaks']),
      brings: z.array(findingSchema),
      ends: z.array(findingSchema),
    }),
  ),
});
export type ChangeReviewView = z.infer<typeof changeReviewSchema>;

const scenarioCodes = z.array(codeSchema).min(1, 'Choose at least one scenario.').max(5_000);
export const takeVersionSchema = z.object({ test: codeSchema, scenarios: scenarioCodes });
export const replaceTestSchema = z.object({ test: codeSchema, by: codeSchema, scenarios: scenarioCodes });

export const overlapsSchema = z.object({
  contained: z.array(z.object({ inner: placeSchema, outer: placeSchema, isEqual: z.boolean(), minutes: z.int(), runs: z.int() })),
  stretches: z.array(
    z.object({
      tests: z.array(placeSchema),
      places: z.array(z.object({ scenario: placeSchema, at: z.int() })),
      minutes: z.int(),
    }),
  ),
  /** How many there are; the lists show the heaviest. */
  totals: z.object({ contained: z.int(), stretches: z.int() }),
});
export type OverlapsView = z.infer<typeof overlapsSchema>;

const gapSchema = placeSchema.extend({ path: z.array(z.string()), tests: z.int() });
export const mapGapsSchema = z.object({ streams: z.array(gapSchema), activities: z.array(gapSchema), allActivities: z.int() });
export type MapGapsView = z.infer<typeof mapGapsSchema>;

export const mapWaySchema = z.object({
  processes: z.array(
    z.object({
      node: placeSchema,
      activities: z.array(z.object({ node: placeSchema, legs: z.array(z.int()), tests: z.int() })),
      reversals: z.array(z.object({ leg: z.int(), after: z.int() })),
    }),
  ),
});
export type MapWayView = z.infer<typeof mapWaySchema>;

export const scenarioStatesSchema = z.object({
  states: z.array(z.object({ id: z.int(), savedAt: momentSchema, by: z.string().nullable(), legs: z.int(), rows: z.int() })),
});
export type ScenarioStates = z.infer<typeof scenarioStatesSchema>;

/** Compared with another scenario, or with an earlier state of itself. */
export const compareQuerySchema = z.object({ with: codeSchema.optional(), state: z.coerce.number().int().optional() });

const comparedLegSchema = z.object({ index: z.int(), title: z.string(), test: z.string().nullable(), team: z.string().nullable() });
export const comparisonSchema = z.object({
  before: z.string(),
  after: z.string(),
  legs: z.array(
    z.object({
      kind: z.enum(['same', 'changed', 'moved', 'added', 'removed']),
      before: comparedLegSchema.nullable(),
      after: comparedLegSchema.nullable(),
      changes: z.array(z.string()),
    }),
  ),
  data: z.array(z.string()),
  isSame: z.boolean(),
});
export type ComparisonView = z.infer<typeof comparisonSchema>;

export const draftForLegSchema = z.object({ leg: idSchema<'leg'>(), code: codeSchema, node: codeSchema });
