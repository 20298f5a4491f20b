import { idSchema } from '@kindred-baton/contracts/common';
import { startAttemptSchema } from '@kindred-baton/contracts/turns/turn';
import { startAttempt } from '@kindred-baton/store/turns/make-attempts';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  input: startAttemptSchema,
  output: z.object({ number: z.int() }),
  handle: ({ perform, param, body }) => perform(startAttempt, { turnId: idSchema<'turn'>().parse(param('turn')), ...body }),
});
