import { nodeChangeSchema } from '@kindred-baton/contracts/map/node';
import { getMapChanges } from '@kindred-baton/store/map/get-map-changes';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({
  output: z.object({ changes: z.array(nodeChangeSchema) }),
  handle: ({ ask, param }) => ask(getMapChanges, { cycle: param('code') }),
});
