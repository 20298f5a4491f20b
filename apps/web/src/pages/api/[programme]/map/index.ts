import { addNodeSchema, mapViewSchema } from '@kindred-baton/contracts/map/node';
import { addNode } from '@kindred-baton/store/map/change-map';
import { getMap } from '@kindred-baton/store/map/get-map';
import { z } from 'zod';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: mapViewSchema, handle: ({ ask }) => ask(getMap, undefined) });

export const POST = defineEndpoint({
  input: addNodeSchema,
  output: z.object({ code: z.string() }),
  handle: ({ perform, body }) => perform(addNode, body),
});
