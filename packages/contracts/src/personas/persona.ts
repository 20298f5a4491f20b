import { z } from 'zod';
import { idSchema, nameSchema } from '../common.ts';

const personaSchema = z.object({
  id: idSchema<'persona'>(),
  name: z.string(),
  description: z.string(),
  starts: z.array(z.object({ applicationId: idSchema<'application'>(), environmentId: idSchema<'environment'>(), how: z.string() })),
});
export const personaListSchema = z.object({ personas: z.array(personaSchema) });
export type PersonaView = z.infer<typeof personaSchema>;

export const savePersonaSchema = z.object({
  name: nameSchema,
  description: z.string().trim().max(2_000).default(''),
  starts: z
    .array(
      z.object({
        applicationId: idSchema<'application'>(),
        environmentId: idSchema<'environment'>(),
        how: z.string().trim().min(1).max(1_000),
      }),
    )
    .max(500)
    .default([]),
});
export type SavePersona = z.infer<typeof savePersonaSchema>;
