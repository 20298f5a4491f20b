import { doneSchema, idSchema } from '@kindred-baton/contracts/common';
import { saveEnvironmentSchema } from '@kindred-baton/contracts/programmes/programme';
import { removeEnvironment, saveEnvironment } from '@kindred-baton/store/programmes/change-programme';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

const idOf = (text: string) => idSchema<'environment'>().parse(text);

export const PUT = defineEndpoint({
  input: saveEnvironmentSchema,
  output: z.object({ id: idSchema<'environment'>() }),
  handle: ({ perform, param, body }) => perform(saveEnvironment, { id: idOf(param('id')), ...body }),
});

export const DELETE = defineEndpoint({ output: doneSchema, handle: ({ perform, param }) => perform(removeEnvironment, idOf(param('id'))) });
