import { idSchema } from '@kindred-baton/contracts/common';
import { runOverlaySchema } from '@kindred-baton/contracts/scenarios/scenario';
import { getRunOverlay } from '@kindred-baton/store/turns/get-run-overlay';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({
  output: runOverlaySchema,
  handle: ({ ask, param }) => ask(getRunOverlay, idSchema<'run'>().parse(param('run'))),
});
