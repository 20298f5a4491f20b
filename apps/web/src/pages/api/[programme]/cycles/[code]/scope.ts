import { changeScopeSchema, scopeEffectsSchema } from '@kindred-baton/contracts/cycles/cycle';
import { idSchema } from '@kindred-baton/contracts/common';
import { changeScope, getScopeEffects } from '@kindred-baton/store/cycles/change-scope';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  input: changeScopeSchema,
  output: z.object({ runs: z.int() }),
  handle: ({ perform, param, body }) => perform(changeScope, { code: param('code'), change: body }),
});

/** What taking runs out would set aside. */
export const PUT = defineEndpoint({
  input: z.object({ runs: z.array(idSchema<'run'>()).max(10_000) }),
  output: scopeEffectsSchema,
  handle: ({ ask, param, body }) => ask(getScopeEffects, { code: param('code'), runs: body.runs }),
});
