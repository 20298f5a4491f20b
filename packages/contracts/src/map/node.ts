import { z } from 'zod';
import { REQUIREMENT_STATES } from '@kindred-baton/core/map/requirement';
import { TURN_STATUSES } from '@kindred-baton/core/turns/turn';
import { codeSchema, codedSchema, idSchema, nameSchema, namedSchema, personSchema } from '../common.ts';

export const mapNodeSchema = z.object({
  id: idSchema<'node'>(),
  code: z.string(),
  name: z.string(),
  parentId: idSchema<'node'>().nullable(),
  depth: z.int(),
  team: z.string().nullable(),
  application: z.string().nullable(),
  isCritical: z.boolean(),
  hasChildren: z.boolean(),
  tests: z.int(),
  scenarios: z.int(),
  requirements: z.int(),
  covered: z.int(),
});
export type MapNode = z.infer<typeof mapNodeSchema>;

export const mapViewSchema = z.object({
  levels: z.array(z.string()),
  nodes: z.array(mapNodeSchema),
  totals: z.object({ tests: z.int(), scenarios: z.int() }),
});
export type MapView = z.infer<typeof mapViewSchema>;

export const nodeDetailSchema = z.object({
  id: idSchema<'node'>(),
  code: z.string(),
  name: z.string(),
  level: z.string(),
  description: z.string(),
  isCritical: z.boolean(),
  team: namedSchema.nullable(),
  application: namedSchema.nullable(),
  owner: personSchema.nullable(),
  tests: z.array(codedSchema.extend({ status: z.enum(TURN_STATUSES).nullable() })),
  scenarios: z.array(codedSchema),
  requirements: z.array(codedSchema.extend({ state: z.enum(REQUIREMENT_STATES) })),
});
export type NodeDetail = z.infer<typeof nodeDetailSchema>;

const nodeFields = {
  name: nameSchema,
  teamId: idSchema<'team'>().nullable(),
  applicationId: idSchema<'application'>().nullable(),
  ownerId: idSchema<'person'>().nullable(),
  isCritical: z.boolean(),
  description: z.string().max(20_000),
};

export const addNodeSchema = z.object({ parent: codeSchema.nullable(), code: codeSchema, name: nameSchema });
export type AddNode = z.infer<typeof addNodeSchema>;

export const changeNodeSchema = z.object(nodeFields).partial();
export type ChangeNode = z.infer<typeof changeNodeSchema>;
