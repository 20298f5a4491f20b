import { testFilterSchema } from '@kindred-baton/contracts/tests/library';
import { listTestCodes } from '@kindred-baton/store/tests/list-tests';
import { z } from 'zod';
import { defineEndpoint } from '../../../../server/endpoint.ts';

/** The codes of all tests that a view of the library finds. */
export const GET = defineEndpoint({
  input: testFilterSchema,
  output: z.object({ codes: z.array(z.string()) }),
  handle: ({ ask, body }) => ask(listTestCodes, body),
});
