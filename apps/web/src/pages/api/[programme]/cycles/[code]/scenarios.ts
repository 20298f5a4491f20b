import { codeSchema } from '@kindred-baton/contracts/common';
import { takeScenario } from '@kindred-baton/store/cycles/change-scope';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

/** Takes a scenario over as it is now. */
export const POST = defineEndpoint({
  input: z.object({ scenario: codeSchema }),
  output: z.object({ runs: z.int() }),
  handle: ({ perform, param, body }) => perform(takeScenario, { code: param('code'), ...body }),
});
