import { idSchema } from '@kindred-baton/contracts/common';
import { personaListSchema, savePersonaSchema } from '@kindred-baton/contracts/personas/persona';
import { listPersonas, savePersona } from '@kindred-baton/store/personas/personas';
import { z } from 'zod';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: personaListSchema, handle: ({ ask }) => ask(listPersonas, undefined) });

export const POST = defineEndpoint({
  input: savePersonaSchema,
  output: z.object({ id: idSchema<'persona'>() }),
  handle: ({ perform, body }) => perform(savePersona, { id: null, save: body }),
});
