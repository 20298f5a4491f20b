import { z } from 'zod';
import { comparisonSchema } from '../scenarios/reuse.ts';
import { dataRowSchema } from '../tests/test.ts';
import { MISSING_CHOICES } from '@kindred-baton/core/imports/choose-differences';
import { MAP_CHANGE_KINDS } from '@kindred-baton/core/imports/compare-map';
import { TEST_FIELDS, TEST_GROUPINGS } from '@kindred-baton/core/imports/test-table';
import { REQUIREMENT_FIELDS } from '@kindred-baton/core/imports/requirement-table';
import { HIERARCHIES, MAP_FIELDS } from '@kindred-baton/core/imports/map-table';

const problemSchema = z.object({ sheet: z.string(), row: z.int().optional(), column: z.string().optional(), message: z.string() });

/** What every import answers: the file, what is wrong in it, and whether it is stored. */
const importHeadSchema = z.object({
  file: z.string(),
  /** Names exactly what was seen; accepting sends it again, so that nothing else is stored. */
  fingerprint: z.string(),
  problems: z.array(problemSchema),
  warnings: z.array(z.string()),
  isStored: z.boolean(),
});

export type ImportHead = z.infer<typeof importHeadSchema>;

/** Field by field, in words. */
const changesSchema = z.array(z.object({ field: z.string(), before: z.string(), after: z.string() }));

const acceptSchema = z.object({ accept: z.string().optional() });

/** How the columns of a sheet were taken, with some rows to see it by. */
const columnsSchema = z.object({
  sheets: z.array(z.string()),
  sheet: z.string(),
  headings: z.array(z.string()),
  samples: z.array(z.array(z.string())),
  rows: z.int(),
});
export type ImportColumns = z.infer<typeof columnsSchema>;

const columnMap = <Field extends string>(fields: readonly [Field, ...Field[]]) =>
  z.partialRecord(z.enum(fields), z.int().min(0).max(16_384));

const mapMappingSchema = z.object({
  hierarchy: z.enum(HIERARCHIES),
  columns: columnMap(MAP_FIELDS),
  levels: z.array(z.int().min(0).max(16_384)).max(16_384),
});

export const mapImportOptionsSchema = z.object({
  sheet: z.string().optional(),
  mapping: mapMappingSchema.optional(),
  below: z.string().nullable().default(null),
  addsNames: z.boolean().default(false),
  leftOut: z.array(z.string()).default([]),
  missing: z.enum(MISSING_CHOICES).default('keep'),
  accept: z.string().optional(),
});
export type MapImportOptions = z.input<typeof mapImportOptionsSchema>;

const mapDifferenceSchema = z.object({
  kind: z.enum(MAP_CHANGE_KINDS),
  code: z.string(),
  name: z.string(),
  depth: z.int(),
  parent: z.string().nullable(),
  parentBefore: z.string().nullable(),
  changes: changesSchema,
});
export type MapDifferenceLine = z.infer<typeof mapDifferenceSchema>;

const mapChangesSchema = z.object({
  counts: z.record(z.enum(MAP_CHANGE_KINDS), z.int()),
  /** What differs, with the branches that it lies in; the first few thousand. */
  differences: z.array(mapDifferenceSchema),
  more: z.int(),
});

export const mapImportPreviewSchema = importHeadSchema.extend({
  format: z.enum(['table', 'BPMN', 'JSON']),
  columns: columnsSchema.nullable(),
  mapping: mapMappingSchema.nullable(),
  ...mapChangesSchema.shape,
  newTeams: z.array(z.string()),
  newApplications: z.array(z.string()),
});
export type MapImportPreview = z.infer<typeof mapImportPreviewSchema>;

export const requirementImportOptionsSchema = z.object({
  sheet: z.string().optional(),
  columns: columnMap(REQUIREMENT_FIELDS).optional(),
  accept: z.string().optional(),
});

export const requirementImportPreviewSchema = importHeadSchema.extend({
  columns: columnsSchema.nullable(),
  taken: columnMap(REQUIREMENT_FIELDS),
  counts: z.object({ new: z.int(), changed: z.int(), same: z.int(), missing: z.int() }),
  /** What differs, the first few thousand. */
  differences: z.array(
    z.object({
      kind: z.enum(['new', 'changed']),
      code: z.string(),
      title: z.string(),
      changes: changesSchema,
    }),
  ),
});
export type RequirementImportPreview = z.infer<typeof requirementImportPreviewSchema>;

const testMappingSchema = z.object({ grouping: z.enum(TEST_GROUPINGS), columns: columnMap(TEST_FIELDS) });

export const testImportOptionsSchema = z.object({
  sheet: z.string().optional(),
  mapping: testMappingSchema.optional(),
  /** Where tests go that name no activity. */
  activity: z.string().nullable().default(null),
  accept: z.string().optional(),
});
export type TestImportOptions = z.input<typeof testImportOptionsSchema>;

const countsSchema = z.object({ new: z.int(), changed: z.int(), same: z.int() });

const testChangesSchema = z.object({
  counts: countsSchema,
  /** What differs, the first few thousand. */
  differences: z.array(
    z.object({
      kind: z.enum(['new', 'changed']),
      code: z.string(),
      title: z.string(),
      steps: z.array(z.string()),
      rows: z.int(),
      changes: changesSchema,
    }),
  ),
});

export const testImportPreviewSchema = importHeadSchema.extend({
  format: z.enum(['table', 'Gherkin', 'recording']),
  columns: columnsSchema.nullable(),
  mapping: testMappingSchema.nullable(),
  ...testChangesSchema.shape,
  /** How many sentences there are, and how many became steps by hand. */
  sentences: z.int(),
  byHand: z.int(),
  handSteps: z.array(z.object({ test: z.string(), text: z.string() })),
});
export type TestImportPreview = z.infer<typeof testImportPreviewSchema>;

/** Data rows read from a spreadsheet for one test. */
export const dataRowsReadSchema = z.object({ rows: z.array(dataRowSchema), problems: z.array(problemSchema) });

/** A scenario’s file: under which code it is taken in, called what, and where. */
export const scenarioImportOptionsSchema = acceptSchema.extend({
  code: z.string().trim().optional(),
  name: z.string().trim().optional(),
  node: z.string().trim().optional(),
});

export const scenarioImportPreviewSchema = importHeadSchema.extend({
  target: z.object({ code: z.string(), name: z.string(), node: z.string() }),
  isNew: z.boolean(),
  comparison: comparisonSchema,
  edits: z.int(),
});
export type ScenarioImportPreview = z.infer<typeof scenarioImportPreviewSchema>;

export const workbookImportOptionsSchema = acceptSchema.extend({
  /** New tests and scenarios come in agreed, by whoever takes them in; else as drafts and sketches. */
  agreesNew: z.boolean().default(true),
});
export type WorkbookImportOptions = z.input<typeof workbookImportOptionsSchema>;

/** Our own workbook: three lists in one. */
export const workbookImportPreviewSchema = importHeadSchema.extend({
  map: mapChangesSchema,
  tests: testChangesSchema,
  scenarios: z.object({
    counts: countsSchema,
    differences: z.array(
      z.object({
        kind: z.enum(['new', 'changed']),
        code: z.string(),
        title: z.string(),
        legs: z.int(),
        openLegs: z.int(),
        rows: z.int(),
        changes: changesSchema,
        comparison: comparisonSchema,
        /** What the wiring says of it as it would stand then. */
        findings: z.array(z.string()),
      }),
    ),
  }),
});
export type WorkbookImportPreview = z.infer<typeof workbookImportPreviewSchema>;
