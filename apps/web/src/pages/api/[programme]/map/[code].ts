import { DONE, doneSchema } from '@kindred-baton/contracts/common';
import { changeNodeSchema, nodeDetailSchema } from '@kindred-baton/contracts/map/node';
import { changeNode } from '@kindred-baton/store/map/change-map';
import { getNode } from '@kindred-baton/store/map/get-node';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: nodeDetailSchema, handle: ({ ask, param }) => ask(getNode, param('code')) });

export const PATCH = defineEndpoint({
  input: changeNodeSchema,
  output: doneSchema,
  handle: async ({ perform, param, body }) => {
    await perform(changeNode, { code: param('code'), change: body });
    return DONE;
  },
});
