import { idSchema } from '@kindred-baton/contracts/common';
import { saveApplicationSchema } from '@kindred-baton/contracts/programmes/programme';
import { saveApplication } from '@kindred-baton/store/programmes/change-programme';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  input: saveApplicationSchema,
  output: z.object({ id: idSchema<'application'>() }),
  handle: ({ perform, body }) => perform(saveApplication, { id: null, ...body }),
});
