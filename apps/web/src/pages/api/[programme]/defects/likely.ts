import { joinDefectSchema, likelySameQuerySchema, likelySameSchema } from '@kindred-baton/contracts/defects/defect';
import { getLikelySame, joinDefect } from '@kindred-baton/store/defects/talk-about-defects';
import { z } from 'zod';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({
  input: likelySameQuerySchema,
  output: likelySameSchema,
  handle: ({ ask, body }) => ask(getLikelySame, body),
});

/** Joins instead of doubling. */
export const POST = defineEndpoint({
  input: joinDefectSchema,
  output: z.object({ code: z.string() }),
  handle: ({ perform, body }) => perform(joinDefect, body),
});
