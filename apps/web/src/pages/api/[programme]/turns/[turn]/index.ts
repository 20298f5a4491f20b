import { idSchema } from '@kindred-baton/contracts/common';
import { guideSchema } from '@kindred-baton/contracts/turns/turn';
import { getGuide } from '@kindred-baton/store/turns/get-guide';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({
  output: guideSchema,
  handle: ({ ask, param }) => ask(getGuide, idSchema<'turn'>().parse(param('turn'))),
});
