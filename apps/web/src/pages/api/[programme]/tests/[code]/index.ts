import { saveTestSchema, testDetailSchema } from '@kindred-baton/contracts/tests/test';
import { saveTest } from '@kindred-baton/store/tests/change-tests';
import { getTest } from '@kindred-baton/store/tests/get-test';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({
  input: z.object({ version: z.coerce.number().int().positive().optional() }),
  output: testDetailSchema,
  handle: ({ ask, param, body }) => ask(getTest, { code: param('code'), number: body.version }),
});

export const PUT = defineEndpoint({
  input: saveTestSchema,
  output: z.object({ number: z.int(), revision: z.int() }),
  handle: ({ perform, param, body }) => perform(saveTest, { code: param('code'), save: body }),
});
