import { createProgrammeSchema } from '@kindred-baton/contracts/programmes/programme';
import { createProgramme } from '@kindred-baton/store/programmes/change-programme';
import { z } from 'zod';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  input: createProgrammeSchema,
  output: z.object({ key: z.string() }),
  handle: ({ perform, body }) => perform(createProgramme, body),
});
