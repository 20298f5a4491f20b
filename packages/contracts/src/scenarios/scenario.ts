import { z } from 'zod';
import { CLASS_KINDS } from '@kindred-baton/core/rows/row-model';
import { SCENARIO_STATES } from '@kindred-baton/core/scenarios/scenario';
import { TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { VERSION_STATES } from '@kindred-baton/core/tests/version';
import { codeSchema, codedSchema, idSchema, momentSchema, nameSchema, namedSchema, prioritySchema } from '../common.ts';
import { fieldSchema } from '../tests/test.ts';

const wireSchema = z.object({
  need: z.string().trim().min(1).max(100),
  from: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('leg'), leg: idSchema<'leg'>(), gives: z.string().min(1).max(100), convert: z.boolean().optional() }),
    z.object({ kind: z.literal('column'), column: z.string().min(1).max(100) }),
    z.object({ kind: z.literal('fixed'), value: z.string().max(2_000) }),
    z.object({ kind: z.literal('new'), pattern: z.string().min(1).max(100) }),
  ]),
});

export const SCENARIOS_A_PAGE = 100;

export const scenarioListQuerySchema = z.object({
  /** Only those at this branch of the map. */
  scope: codeSchema.optional(),
  page: z.coerce.number().int().min(1).default(1),
});
export type ScenarioListQuery = z.infer<typeof scenarioListQuerySchema>;

/** A page of the scenarios, by code, with what their wiring says. */
export const scenarioListSchema = z.object({
  ...{ total: z.int(), page: z.int(), pages: z.int() },
  /** With a baton that does not arrive; null: there are more than this page, and looking at all of them takes its time (countToFix). */
  toFix: z.int().nullable(),
  scenarios: z.array(
    codedSchema.extend({
      node: z.object({ code: z.string(), name: z.string() }),
      state: z.enum(SCENARIO_STATES),
      priority: prioritySchema,
      legs: z.int(),
      openLegs: z.int(),
      rows: z.int(),
      teams: z.array(z.string()),
      errors: z.int(),
      warnings: z.int(),
      /** Legs whose test has a newer agreed version. */
      offers: z.int(),
    }),
  ),
});
export type ScenarioList = z.infer<typeof scenarioListSchema>;
export type ScenarioListItem = ScenarioList['scenarios'][number];

export const scenarioNamesSchema = z.object({ scenarios: z.array(z.object({ code: z.string(), name: z.string() })) });
export type ScenarioNames = z.infer<typeof scenarioNamesSchema>;

const legId = idSchema<'leg'>();
const fields = z.array(fieldSchema).max(100);

const legDocumentSchema = z.object({
  id: legId,
  test: codeSchema.nullable(),
  version: z.int().min(1).nullable(),
  title: z.string().trim().min(1, 'Say in words what this leg is to test.').max(200).nullable(),
  team: idSchema<'team'>().nullable(),
  persona: idSchema<'persona'>().nullable(),
  after: z.array(legId).max(200).nullable(),
  wires: z.array(wireSchema).max(200),
  waitDays: z.int('Give whole days.').min(0, 'At least no day.').max(366, 'At most 366 days.'),
  samePersonAs: legId.nullable(),
  otherPersonThan: z.array(legId).max(200),
  note: z.string().max(4_000, 'A note has at most 4,000 characters.'),
  needs: fields,
  gives: fields,
});

const combinationSchema = z.record(z.string().max(100), z.string().max(2_000));

const classSetupSchema = z.object({
  strength: z.union([z.literal(2), z.literal(3)]),
  columns: z
    .array(
      z.object({
        name: z.string().min(1).max(100),
        classes: z.array(z.object({ value: z.string().max(2_000), kind: z.enum(CLASS_KINDS) })).max(500),
      }),
    )
    .max(250),
  forbidden: z.array(combinationSchema).max(1_000),
  mustHave: z.array(combinationSchema).max(1_000),
});

const rowSchema = z.object({ id: idSchema<'scenarioRow'>(), name: nameSchema, values: combinationSchema });

const scenarioDocumentSchema = z.object({
  legs: z.array(legDocumentSchema),
  columns: z.array(fieldSchema),
  rows: z.array(rowSchema),
  classes: classSetupSchema.nullable(),
});

/** An open leg says in words what is to be tested. */
const hasWords = (leg: z.infer<typeof legDocumentSchema>) => leg.test !== null || leg.title !== null;
const newLegSchema = legDocumentSchema.refine(hasWords, { message: 'Say in words what this open leg is to test.', path: ['title'] });
const legChangeSchema = legDocumentSchema.omit({ id: true }).partial();

export const scenarioEditSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('add leg'), leg: newLegSchema, before: legId.nullable() }),
  z.object({ kind: z.literal('change leg'), leg: legId, change: legChangeSchema, was: legChangeSchema.optional() }),
  z.object({ kind: z.literal('move leg'), leg: legId, before: legId.nullable() }),
  z.object({ kind: z.literal('remove leg'), leg: legId }),
  z.object({ kind: z.literal('add column'), column: fieldSchema, before: z.string().nullable() }),
  z.object({ kind: z.literal('change column'), column: z.string(), change: fieldSchema }),
  z.object({ kind: z.literal('remove column'), column: z.string() }),
  z.object({ kind: z.literal('add row'), row: rowSchema, before: idSchema<'scenarioRow'>().nullable() }),
  z.object({
    kind: z.literal('change row'),
    row: idSchema<'scenarioRow'>(),
    name: nameSchema.optional(),
    values: combinationSchema.optional(),
  }),
  z.object({ kind: z.literal('remove row'), row: idSchema<'scenarioRow'>() }),
  z.object({ kind: z.literal('set classes'), classes: classSetupSchema.nullable() }),
]);
export const editScenarioSchema = z.object({
  edits: z.array(scenarioEditSchema).min(1).max(5_000, 'At most 5,000 edits at once.'),
});
export const scenarioUndoSchema = z.object({ undo: z.array(scenarioEditSchema) });

/** The version of a test that a leg is drawn with. */
const drawnTestSchema = z.object({
  code: z.string(),
  name: z.string(),
  version: z.int(),
  /** The newest agreed version, where it is another one. */
  newer: z.int().nullable(),
  state: z.enum(VERSION_STATES),
  isRetired: z.boolean(),
  steps: z.int(),
  minutes: z.int(),
  team: idSchema<'team'>().nullable(),
  node: z.string(),
  needs: z.array(fieldSchema),
  gives: z.array(fieldSchema),
  ownValues: z.record(z.string(), z.string()),
  place: z.object({ parent: z.string(), order: z.number() }).nullable(),
});
export type DrawnTestView = z.infer<typeof drawnTestSchema>;

export const scenarioDetailSchema = z.object({
  id: idSchema<'scenario'>(),
  code: z.string(),
  name: z.string(),
  state: z.enum(SCENARIO_STATES),
  path: z.array(z.object({ code: z.string(), name: z.string() })),
  document: scenarioDocumentSchema,
  /** By toTestKey of the legs. */
  tests: z.record(z.string(), drawnTestSchema),
  teams: z.array(namedSchema),
  personas: z.array(namedSchema),
  isInOpenCycle: z.boolean(),
  runs: z.array(z.object({ id: idSchema<'run'>(), label: z.string(), rowName: z.string().nullable(), cycle: z.string() })),
  /** Rows of which a run was made: they stay when rows are made from classes. */
  ranRows: z.array(idSchema<'scenarioRow'>()),
});
export type ScenarioDetail = z.infer<typeof scenarioDetailSchema>;

/** One run laid over the relay. */
export const runOverlaySchema = z.object({
  id: idSchema<'run'>(),
  cycle: z.object({ code: z.string(), name: z.string() }),
  rowName: z.string().nullable(),
  turns: z.array(
    z.object({
      id: idSchema<'turn'>(),
      index: z.int(),
      legId: idSchema<'leg'>().nullable(),
      title: z.string(),
      status: z.enum(TURN_STATUSES),
      assignee: z.string().nullable(),
      latest: z
        .object({ outcome: z.string(), by: z.string(), at: momentSchema, note: z.string(), step: z.int().nullable(), steps: z.int() })
        .nullable(),
    }),
  ),
  baton: z.array(z.object({ name: z.string(), value: z.string(), index: z.int() })),
});
export type RunOverlay = z.infer<typeof runOverlaySchema>;

/** `node`: where it belongs on the map, by code. */
export const changeScenarioSchema = z.object({ name: nameSchema, node: codeSchema, state: z.enum(SCENARIO_STATES) }).partial();
export type ChangeScenario = z.infer<typeof changeScenarioSchema>;

export const createScenarioSchema = z.object({
  /** Nothing: the next free one. */
  code: z.union([codeSchema, z.literal('')]),
  name: nameSchema,
  node: codeSchema,
  /** What it begins with: legs and columns of a found chain, of a workshop's lines, of a file. */
  edits: z.array(scenarioEditSchema).max(5_000).optional(),
});
export type CreateScenario = z.infer<typeof createScenarioSchema>;
