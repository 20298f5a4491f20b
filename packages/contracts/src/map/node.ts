import { z } from 'zod';
import { REQUIREMENT_STATES } from '@kindred-baton/core/requirements/requirement';
import {
  codeSchema,
  codedSchema,
  countsSchema,
  idSchema,
  momentSchema,
  nameSchema,
  namedSchema,
  personSchema,
  proofSchema,
  standingSchema,
} from '../common.ts';

export const nodeDocumentSchema = z.object({
  title: nameSchema,
  address: z
    .string()
    .trim()
    .max(2_000)
    .regex(/^(https?:\/\/|\/|[A-Za-z0-9_.-]+[/\\]|\\\\)/, 'Give an address that begins with https://, or a path on a shared drive.'),
});

/** A change of a node: what was done, to which fields, by whom and when. */
export const nodeChangeSchema = z.object({
  code: z.string(),
  name: z.string(),
  action: z.string(),
  details: z.array(z.object({ field: z.string(), before: z.string(), after: z.string() })),
  by: z.string().nullable(),
  at: momentSchema,
});
export type NodeChange = z.infer<typeof nodeChangeSchema>;

const mapNodeSchema = z.object({
  id: idSchema<'node'>(),
  code: z.string(),
  name: z.string(),
  parentId: idSchema<'node'>().nullable(),
  depth: z.int(),
  team: z.string().nullable(),
  application: z.string().nullable(),
  owner: z.string().nullable(),
  isCritical: z.boolean(),
  isRetired: z.boolean(),
  /** Whether it was changed since the current cycle opened. */
  isChanged: z.boolean(),
  hasChildren: z.boolean(),
  tests: z.int(),
  scenarios: z.int(),
  requirements: z.int(),
  covered: z.int(),
});
export type MapNode = z.infer<typeof mapNodeSchema>;

export const mapViewSchema = z.object({
  levels: z.array(z.string()),
  codeScheme: z.array(z.string()),
  /** The cycle that *changed* counts from: the current one, when it has opened. */
  since: z.object({ code: z.string(), name: z.string() }).nullable(),
  nodes: z.array(mapNodeSchema),
  totals: z.object({ tests: z.int(), scenarios: z.int() }),
  /** Of a long map a page comes with its first nodes alone: how many more there are, and how many of those were changed. */
  more: z.object({ nodes: z.int(), changed: z.int() }),
});
export type MapView = z.infer<typeof mapViewSchema>;

export const nodeDetailSchema = z.object({
  id: idSchema<'node'>(),
  code: z.string(),
  name: z.string(),
  level: z.string(),
  description: z.string(),
  /** The description’s Markdown as safe HTML. */
  descriptionHtml: z.string(),
  documents: z.array(nodeDocumentSchema),
  isCritical: z.boolean(),
  isRetired: z.boolean(),
  team: namedSchema.nullable(),
  application: namedSchema.nullable(),
  owner: personSchema.nullable(),
  tests: z.array(codedSchema.extend({ standing: standingSchema })),
  scenarios: z.array(codedSchema.extend({ nodes: z.array(z.string()) })),
  outcomes: countsSchema,
  history: z.array(nodeChangeSchema),
  requirements: z.array(codedSchema.extend({ state: z.enum(REQUIREMENT_STATES), proof: proofSchema })),
});
export type NodeDetail = z.infer<typeof nodeDetailSchema>;

const nodeFieldsSchema = z
  .object({
    team: z.string().nullable(),
    application: z.string().nullable(),
    owner: z.string().nullable(),
    isCritical: z.boolean(),
    isRetired: z.boolean(),
    description: z.string().max(20_000, 'A description has at most 20,000 characters.'),
    documents: z.array(nodeDocumentSchema).max(100),
  })
  .partial();

const placeFields = { code: codeSchema, parent: codeSchema.nullable(), at: z.int().min(0) };

const mapEditSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('add'), ...placeFields, name: nameSchema, fields: nodeFieldsSchema.optional() }),
  z.object({
    kind: z.literal('change'),
    code: codeSchema,
    change: nodeFieldsSchema.extend({ code: codeSchema.optional(), name: nameSchema.optional() }),
  }),
  z.object({ kind: z.literal('move'), places: z.array(z.object(placeFields)).min(1).max(5_000) }),
  z.object({ kind: z.literal('remove'), codes: z.array(codeSchema).min(1).max(5_000) }),
]);
export type MapEditInput = z.infer<typeof mapEditSchema>;

/** Edits are made together, all or none. */
export const editMapSchema = z.object({ edits: z.array(mapEditSchema).min(1).max(5_000, 'At most 5,000 changes at once.') });

export const mapEditedSchema = z.object({ undo: z.array(mapEditSchema) });

/** What hangs on nodes, and so keeps them from being removed. */
export const hangsSchema = z.object({
  nodes: z.int(),
  tests: z.array(codedSchema),
  scenarios: z.array(codedSchema),
  requirements: z.array(codedSchema),
  /** What was recorded there and is kept: turns and sign-offs. With any, the node can only be retired. */
  turns: z.int(),
  signOffs: z.int(),
});
export type Hangs = z.infer<typeof hangsSchema>;

export const moveHangsSchema = z.object({ codes: z.array(codeSchema).min(1).max(5_000), to: codeSchema });

export const changeLevelsSchema = z.object({
  levels: z.array(nameSchema).min(2, 'A programme has two levels at least.').max(6, 'A programme has six levels at most.'),
  codeScheme: z.array(z.string().trim().min(1).max(40)).min(1).max(6),
});
