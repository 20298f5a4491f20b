import { doneSchema, idSchema } from '@kindred-baton/contracts/common';
import { recordStepSchema } from '@kindred-baton/contracts/turns/turn';
import { recordStep } from '@kindred-baton/store/turns/make-attempts';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../../server/endpoint.ts';

export const PUT = defineEndpoint({
  input: recordStepSchema,
  output: doneSchema,
  handle: ({ perform, param, body }) =>
    perform(recordStep, {
      attemptId: idSchema<'attempt'>().parse(param('attempt')),
      stepIndex: z.coerce.number().int().min(0).parse(param('step')),
      word: body,
    }),
});
