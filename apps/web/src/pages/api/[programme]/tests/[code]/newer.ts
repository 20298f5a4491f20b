import { takeNewerSchema } from '@kindred-baton/contracts/tests/test';
import { takeNewerVersion } from '@kindred-baton/store/turns/take-newer-version';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

/** Turns of a cycle that nobody has begun take the newest agreed version over. */
export const POST = defineEndpoint({
  input: takeNewerSchema,
  output: z.object({ changed: z.int(), version: z.int() }),
  handle: ({ perform, param, body }) => perform(takeNewerVersion, { code: param('code'), ...body }),
});
