import { idSchema } from '@kindred-baton/contracts/common';
import { finishedSchema } from '@kindred-baton/contracts/turns/turn';
import { finishAttempt } from '@kindred-baton/store/turns/make-attempts';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  output: finishedSchema,
  handle: ({ perform, param }) => perform(finishAttempt, idSchema<'attempt'>().parse(param('attempt'))),
});
