import { hangsSchema, moveHangsSchema } from '@kindred-baton/contracts/map/node';
import { moveHangs } from '@kindred-baton/store/map/edit-map';
import { getHangs } from '@kindred-baton/store/map/get-hangs';
import { z } from 'zod';
import { defineEndpoint } from '../../../../server/endpoint.ts';

/** What hangs on nodes; codes joined by commas. */
export const GET = defineEndpoint({
  input: z.object({ codes: z.string() }),
  output: hangsSchema,
  handle: ({ ask, body }) => ask(getHangs, { codes: body.codes.split(',') }),
});

/** Moves what hangs there to another node. */
export const POST = defineEndpoint({
  input: moveHangsSchema,
  output: z.object({ moved: z.int() }),
  handle: ({ perform, body }) => perform(moveHangs, body),
});
