import { agreeTestSchema } from '@kindred-baton/contracts/tests/test';
import { discardDraft } from '@kindred-baton/store/tests/change-tests';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

/** Drops the draft: the agreed version before it is the newest again. */
export const DELETE = defineEndpoint({
  input: agreeTestSchema,
  output: z.object({ number: z.int() }),
  handle: ({ perform, param, body }) => perform(discardDraft, { code: param('code'), ...body }),
});
