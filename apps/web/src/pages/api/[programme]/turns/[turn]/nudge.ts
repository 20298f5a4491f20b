import { idSchema } from '@kindred-baton/contracts/common';
import { nudgedSchema } from '@kindred-baton/contracts/turns/turn';
import { nudge } from '@kindred-baton/store/turns/nudge';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  output: nudgedSchema,
  handle: ({ perform, param }) => perform(nudge, idSchema<'turn'>().parse(param('turn'))),
});
