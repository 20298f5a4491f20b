import { doneSchema, idSchema } from '@kindred-baton/contracts/common';
import { saveApplicationSchema } from '@kindred-baton/contracts/programmes/programme';
import { removeApplication, saveApplication } from '@kindred-baton/store/programmes/change-programme';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

const idOf = (text: string) => idSchema<'application'>().parse(text);

export const PUT = defineEndpoint({
  input: saveApplicationSchema,
  output: z.object({ id: idSchema<'application'>() }),
  handle: ({ perform, param, body }) => perform(saveApplication, { id: idOf(param('id')), ...body }),
});

export const DELETE = defineEndpoint({ output: doneSchema, handle: ({ perform, param }) => perform(removeApplication, idOf(param('id'))) });
