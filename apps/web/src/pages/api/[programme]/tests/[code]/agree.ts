import { agreeTestSchema } from '@kindred-baton/contracts/tests/test';
import { agreeTest } from '@kindred-baton/store/tests/change-tests';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  input: agreeTestSchema,
  output: z.object({ number: z.int() }),
  handle: ({ perform, param, body }) => perform(agreeTest, { code: param('code'), ...body }),
});
