import { z } from 'zod';
import { idSchema, nameSchema } from '../common.ts';

const personaSchema = z.object({
  id: idSchema<'persona'>(),
  name: z.string(),
  description: z.string(),
  starts: z.array(
    z.object({
      applicationId: idSchema<'application'>(),
      environmentId: idSchema<'environment'>(),
      how: z.string(),
      userName: z.string(),
      /** That there is a password is said, and nothing more of it. */
      hasPassword: z.boolean(),
      isUsual: z.boolean(),
    }),
  ),
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
        userName: z.string().trim().max(200).default(''),
        /** Left out: the one that is there stays. Empty: there is none any more. */
        password: z.string().max(1_000).optional(),
        /** Runners sign in with it where a turn names no persona. */
        isUsual: z.boolean().default(false),
      }),
    )
    .max(500)
    .default([]),
});
export type SavePersona = z.infer<typeof savePersonaSchema>;
