import { z } from 'zod';
import { CYCLE_PURPOSES, CYCLE_STATES, LEAVING_WAYS, LEFTOVER_WAYS } from '@kindred-baton/core/cycles/cycle';
import { EVIDENCE_RULES, FAILURE_PARTS, OPEN_LEG_RULES, RETEST_RULES } from '@kindred-baton/core/cycles/rules';
import { SEVERITIES } from '@kindred-baton/core/defects/defect';
import { RUN_OUTCOMES } from '@kindred-baton/core/outcomes';
import { REQUIREMENT_KINDS } from '@kindred-baton/core/requirements/requirement';
import { SCENARIO_STATES } from '@kindred-baton/core/scenarios/scenario';
import { TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { nodeDocumentSchema } from '../map/node.ts';
import {
  codeSchema,
  codedSchema,
  countsSchema,
  daySchema,
  idSchema,
  momentSchema,
  nameSchema,
  personSchema,
  prioritySchema,
} from '../common.ts';

/** Adding a criterion: a line here, its kind in core/cycles/rules.ts and its measure in check-exit.ts. */
const exitRuleSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('run share'), least: z.number().min(0).max(1) }),
  z.object({ kind: z.literal('pass share'), least: z.number().min(0).max(1) }),
  z.object({ kind: z.literal('open defects'), severity: z.enum(SEVERITIES), most: z.int().min(0).max(10_000) }),
  z.object({ kind: z.literal('requirements verified'), requirements: z.enum(REQUIREMENT_KINDS) }),
  z.object({ kind: z.literal('critical nodes signed off') }),
]);

const cycleRulesSchema = z.object({
  onlyAgreedScenarios: z.boolean(),
  openLegs: z.enum(OPEN_LEG_RULES),
  evidence: z.enum(EVIDENCE_RULES),
  runnerPictures: z.enum(EVIDENCE_RULES).default('each step'),
  failure: z.array(z.enum(FAILURE_PARTS)),
  retestBy: z.enum(RETEST_RULES),
  laneMayRecord: z.boolean(),
  exit: z.array(exitRuleSchema).max(20),
});

export const exitResultSchema = z.object({
  rule: exitRuleSchema,
  isMet: z.boolean(),
  figure: z.number().nullable(),
  open: z.array(z.string()),
});

export const reservationSchema = z.object({ text: z.string().trim().min(1, 'Say what is not yet accepted.').max(2_000), dueOn: daySchema });

export const cycleListSchema = z.object({
  cycles: z.array(
    codedSchema.extend({
      state: z.enum(CYCLE_STATES),
      purpose: z.enum(CYCLE_PURPOSES),
      environment: z.string(),
      startsOn: z.string(),
      endsOn: z.string(),
      runs: z.int(),
      counts: countsSchema,
    }),
  ),
});
export type CycleList = z.infer<typeof cycleListSchema>;

export const cycleDetailSchema = z.object({
  id: idSchema<'cycle'>(),
  code: z.string(),
  name: z.string(),
  state: z.enum(CYCLE_STATES),
  purpose: z.enum(CYCLE_PURPOSES),
  environment: z.string(),
  owner: z.string().nullable(),
  environmentId: idSchema<'environment'>(),
  ownerId: idSchema<'person'>().nullable(),
  rules: cycleRulesSchema,
  documents: z.array(nodeDocumentSchema),
  environments: z.array(
    z.object({
      applicationId: idSchema<'application'>(),
      application: z.string(),
      environmentId: idSchema<'environment'>(),
      environment: z.string(),
    }),
  ),
  /** Changes of scope and rules since it opened, newest first. */
  scopeChanges: z.array(
    z.object({
      ...{ action: z.string(), by: z.string().nullable(), at: momentSchema, why: z.string(), details: z.string() },
      ...{ added: z.array(z.string()), dropped: z.array(z.string()) },
    }),
  ),
  startsOn: z.string(),
  endsOn: z.string(),
  counts: countsSchema,
  /** How many are in its scope. */
  runs: z.int(),
  lanes: z.array(
    z.object({
      team: z.string(),
      turns: z.int(),
      minutes: z.int(),
      minutesLeft: z.int(),
      hoursPerDay: z.number(),
      counts: countsSchema,
      people: z.array(personSchema.extend({ turns: z.int(), minutes: z.int(), minutesLeft: z.int() })),
    }),
  ),
  /** What keeps it from being opened, while it is planned. */
  obstacles: z.array(z.object({ scenario: z.string(), message: z.string() })),
  /** Legs that stay with an older version than the newest agreed one, while it is planned: what opening would pin. */
  older: z.array(z.object({ test: z.string(), version: z.int(), newest: z.int(), scenarios: z.array(z.string()) })),
});
export type CycleDetail = z.infer<typeof cycleDetailSchema>;

/** A run by its end, without its turns. */
const runEndSchema = z.object({
  id: idSchema<'run'>(),
  number: z.int(),
  scenario: codedSchema,
  rowName: z.string().nullable(),
  priority: prioritySchema,
  outcome: z.enum(RUN_OUTCOMES),
  leftTo: z.enum(LEAVING_WAYS).nullable(),
  leftReason: z.string(),
});
export const runEndsSchema = z.object({ runs: z.array(runEndSchema) });
export type RunEnds = z.infer<typeof runEndsSchema>;

export const RUNS_A_PAGE = 100;
const MOST_CHOSEN = 500;

export const runListQuerySchema = z.object({
  page: z.coerce.number().int().min(1).default(1),
  /** Only these, by their numbers with commas between; then all of them are one page. */
  numbers: z
    .string()
    .regex(/^\d{1,9}(,\d{1,9})*$/, 'Give numbers of runs with commas between.')
    .refine((text) => text.split(',').length <= MOST_CHOSEN, `At most ${MOST_CHOSEN} runs are chosen at once.`)
    .optional(),
});
export type RunListQuery = z.infer<typeof runListQuerySchema>;

/** A page of a cycle's runs, each with the marks of its turns. */
export const runListSchema = z.object({
  ...{ total: z.int(), page: z.int(), pages: z.int() },
  runs: z.array(
    runEndSchema.extend({
      turns: z.array(
        z.object({
          ...{ id: idSchema<'turn'>(), title: z.string(), status: z.enum(TURN_STATUSES) },
          ...{ team: z.string(), assignee: z.string().nullable() },
        }),
      ),
    }),
  ),
});
export type RunList = z.infer<typeof runListSchema>;

export const scopeScenarioSchema = codedSchema.extend({
  /** A test by itself: a run of one leg. */
  isSingleTest: z.boolean(),
  state: z.enum(SCENARIO_STATES),
  priority: prioritySchema,
  node: z.object({ code: z.string(), name: z.string() }),
  /** Every node that its legs pass, and its own. */
  passes: z.array(z.string()),
  /** Codes of the requirements that its tests serve. */
  requirements: z.array(z.string()),
  legs: z.int(),
  openLegs: z.int(),
  errors: z.int(),
  minutes: z.int(),
  rows: z.array(z.object({ id: idSchema<'scenarioRow'>(), name: z.string() })),
});

/** What can be taken into a cycle. */
export const cycleScopeSchema = z.object({
  scenarios: z.array(scopeScenarioSchema),
  /** Former cycles that have runs, newest first; what they held is asked for when it is wanted (getFormerRuns). */
  former: z.array(codedSchema.omit({ id: true })),
  /** The next free code of the programme's scheme, by purpose. */
  suggestedCodes: z.record(z.enum(CYCLE_PURPOSES), z.string()),
});
export type CycleScope = z.infer<typeof cycleScopeSchema>;

/** What a former cycle held, and how it ended. */
export const formerRunsSchema = z.object({
  runs: z.array(
    z.object({
      scenarioId: idSchema<'scenario'>(),
      rowId: idSchema<'scenarioRow'>().nullable(),
      outcome: z.enum(RUN_OUTCOMES),
      isLeftToNext: z.boolean(),
    }),
  ),
});
export type FormerRuns = z.infer<typeof formerRunsSchema>;

const scopeItemSchema = z.object({ scenarioId: idSchema<'scenario'>(), rowIds: z.array(idSchema<'scenarioRow'>()) });
export type ScopeItem = z.infer<typeof scopeItemSchema>;

export const createCycleSchema = z
  .object({
    code: codeSchema,
    name: nameSchema,
    purpose: z.enum(CYCLE_PURPOSES),
    environmentId: idSchema<'environment'>(),
    startsOn: daySchema,
    endsOn: daySchema,
    ownerId: idSchema<'person'>().optional(),
    rules: cycleRulesSchema.optional(),
    scope: z.array(scopeItemSchema).min(1, 'Choose at least one scenario.'),
  })
  .refine((cycle) => cycle.startsOn <= cycle.endsOn, { message: 'The end is before the start.', path: ['endsOn'] });
export type CreateCycle = z.infer<typeof createCycleSchema>;

const WHY = z.string().trim().max(2_000);

export const changeCycleSchema = z.object({
  name: nameSchema.optional(),
  purpose: z.enum(CYCLE_PURPOSES).optional(),
  environmentId: idSchema<'environment'>().optional(),
  ownerId: idSchema<'person'>().nullable().optional(),
  startsOn: daySchema.optional(),
  endsOn: daySchema.optional(),
  rules: cycleRulesSchema.optional(),
  documents: z.array(nodeDocumentSchema).max(100).optional(),
  /** Applications that are tested in another environment than the cycle's. */
  environments: z.array(z.object({ applicationId: idSchema<'application'>(), environmentId: idSchema<'environment'>() })).optional(),
  /** Asked for once the cycle is open. */
  why: WHY.optional(),
});
export type ChangeCycle = z.infer<typeof changeCycleSchema>;

export const changeScopeSchema = z
  .object({ add: z.array(scopeItemSchema), drop: z.array(idSchema<'run'>()), why: WHY.default('') })
  .refine(({ add, drop }) => add.length + drop.length > 0, { message: 'Choose what goes in or out.' });
export type ChangeScope = z.infer<typeof changeScopeSchema>;

export const scopeEffectsSchema = z.object({
  runs: z.int(),
  turns: z.int(),
  notTried: z.int(),
  minutes: z.int(),
  attempts: z.int(),
  openDefects: z.array(z.string()),
});
export type ScopeEffects = z.infer<typeof scopeEffectsSchema>;

export const moveCycleSchema = z.object({
  from: z.enum(CYCLE_STATES),
  to: z.enum(CYCLE_STATES),
  /** When it closes: where each run goes that is not through. */
  left: z.array(z.object({ runId: idSchema<'run'>(), to: z.enum(LEFTOVER_WAYS), reason: WHY })).optional(),
});
export type MoveCycle = z.infer<typeof moveCycleSchema>;

/** What changed since a cycle opened that it could take over. */
export const sinceOpeningSchema = z.object({
  tests: z.array(
    z.object({ test: z.string(), name: z.string(), pinned: z.array(z.int()), newest: z.int(), notBegun: z.int(), begun: z.int() }),
  ),
  scenarios: z.array(
    z.object({ scenario: z.string(), name: z.string(), at: momentSchema, by: z.string().nullable(), notBegun: z.int(), begun: z.int() }),
  ),
});
export type SinceOpening = z.infer<typeof sinceOpeningSchema>;
