import { DONE, doneSchema, idSchema } from '@kindred-baton/contracts/common';
import { savePersonaSchema } from '@kindred-baton/contracts/personas/persona';
import { removePersona, savePersona } from '@kindred-baton/store/personas/personas';
import { z } from 'zod';
import { defineEndpoint } from '../../../../server/endpoint.ts';

const readId = (text: string) => idSchema<'persona'>().parse(text);

export const PUT = defineEndpoint({
  input: savePersonaSchema,
  output: z.object({ id: idSchema<'persona'>() }),
  handle: ({ perform, param, body }) => perform(savePersona, { id: readId(param('persona')), save: body }),
});

export const DELETE = defineEndpoint({
  output: doneSchema,
  handle: async ({ perform, param }) => {
    await perform(removePersona, { id: readId(param('persona')) });
    return DONE;
  },
});
