import { DONE, doneSchema } from '@kindred-baton/contracts/common';
import { waiveSchema } from '@kindred-baton/contracts/tests/test';
import { waiveFinding } from '@kindred-baton/store/tests/waive-finding';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

/** Waives a finding with a note; without one it counts again. */
export const PUT = defineEndpoint({
  input: waiveSchema,
  output: doneSchema,
  handle: async ({ perform, param, body }) => {
    await perform(waiveFinding, { code: param('code'), waive: body });
    return DONE;
  },
});
