import { createTestSchema } from '@kindred-baton/contracts/tests/test';
import { changeTestsSchema, testFilterSchema, testListSchema } from '@kindred-baton/contracts/tests/library';
import { changeTests } from '@kindred-baton/store/tests/change-many-tests';
import { createTest } from '@kindred-baton/store/tests/change-tests';
import { listTests } from '@kindred-baton/store/tests/list-tests';
import { z } from 'zod';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ input: testFilterSchema, output: testListSchema, handle: ({ ask, body }) => ask(listTests, body) });

export const POST = defineEndpoint({
  input: createTestSchema,
  output: z.object({ code: z.string() }),
  handle: ({ perform, body }) => perform(createTest, body),
});

/** The same change of many. */
export const PATCH = defineEndpoint({
  input: changeTestsSchema,
  output: z.object({ changed: z.int() }),
  handle: ({ perform, body }) => perform(changeTests, body),
});
