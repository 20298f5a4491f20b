import { draftForLegSchema } from '@kindred-baton/contracts/scenarios/reuse';
import { draftForLeg } from '@kindred-baton/store/scenarios/draft-for-leg';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  input: draftForLegSchema,
  output: z.object({ code: z.string() }),
  handle: ({ perform, param, body: { leg, code, node } }) => perform(draftForLeg, { code: param('code'), leg, test: code, node }),
});
