import { acceptanceSchema, signOffSchema } from '@kindred-baton/contracts/cycles/acceptance';
import { DONE, doneSchema } from '@kindred-baton/contracts/common';
import { getAcceptance, signOffNode } from '@kindred-baton/store/cycles/acceptance';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: acceptanceSchema, handle: ({ ask, param }) => ask(getAcceptance, param('code')) });

export const POST = defineEndpoint({
  input: signOffSchema,
  output: doneSchema,
  handle: async ({ perform, param, body }) => {
    await perform(signOffNode, { code: param('code'), signOff: body });
    return DONE;
  },
});
