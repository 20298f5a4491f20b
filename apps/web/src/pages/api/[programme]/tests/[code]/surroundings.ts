import { testSurroundingsSchema } from '@kindred-baton/contracts/tests/test';
import { getTestSurroundings } from '@kindred-baton/store/tests/get-test-surroundings';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

/** What the editor knows around a test: for findings, completion, and where which version is pinned. */
export const GET = defineEndpoint({
  output: testSurroundingsSchema,
  handle: ({ ask, param }) => ask(getTestSurroundings, { code: param('code') }),
});
