import { createTestSchema, testListSchema } from '@kindred-baton/contracts/tests/test';
import { createTest } from '@kindred-baton/store/tests/change-tests';
import { listTests } from '@kindred-baton/store/tests/list-tests';
import { z } from 'zod';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: testListSchema, handle: ({ ask }) => ask(listTests, undefined) });

export const POST = defineEndpoint({
  input: createTestSchema,
  output: z.object({ code: z.string() }),
  handle: ({ perform, body }) => perform(createTest, body),
});
