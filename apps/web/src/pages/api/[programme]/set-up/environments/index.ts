import { idSchema } from '@kindred-baton/contracts/common';
import { saveEnvironmentSchema } from '@kindred-baton/contracts/programmes/programme';
import { saveEnvironment } from '@kindred-baton/store/programmes/change-programme';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  input: saveEnvironmentSchema,
  output: z.object({ id: idSchema<'environment'>() }),
  handle: ({ perform, body }) => perform(saveEnvironment, { id: null, ...body }),
});
