import { z } from 'zod';
import { RIGHTS, ROLES } from '@kindred-baton/core/programmes/roles';
import { countsSchema, idSchema, namedSchema, personSchema } from '../common.ts';

/** Who is looking, in which programme, and what the screens may offer. The server checks each request all the same. */
export const viewerSchema = z.object({
  person: personSchema,
  roles: z.array(z.enum(ROLES)),
  rights: z.array(z.enum(RIGHTS)),
  programme: z.object({ key: z.string(), name: z.string(), timeZone: z.string(), levels: z.array(z.string()), isDemo: z.boolean() }),
  programmes: z.array(z.object({ key: z.string(), name: z.string() })),
});
export type Viewer = z.infer<typeof viewerSchema>;

/** What forms offer to choose from. */
export const choicesSchema = z.object({
  teams: z.array(namedSchema.extend({ colour: z.string() })),
  applications: z.array(namedSchema),
  environments: z.array(namedSchema),
  people: z.array(personSchema),
});
export type Choices = z.infer<typeof choicesSchema>;

/** The strip: the tree in map order, each node after its parent, with its outcomes in the current cycle. */
export const stripSchema = z.object({
  cycle: z.object({ id: idSchema<'cycle'>(), code: z.string(), name: z.string() }).nullable(),
  nodes: z.array(
    z.object({ code: z.string(), name: z.string(), parent: z.int(), depth: z.int(), counts: countsSchema, team: z.string().nullable() }),
  ),
});
export type StripView = z.infer<typeof stripSchema>;
export type StripNode = StripView['nodes'][number];
