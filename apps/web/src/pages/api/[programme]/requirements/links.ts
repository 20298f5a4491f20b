import { DONE, doneSchema } from '@kindred-baton/contracts/common';
import { linkTestSchema } from '@kindred-baton/contracts/requirements/requirement';
import { linkTest } from '@kindred-baton/store/requirements/change-requirements';
import { defineEndpoint } from '../../../../server/endpoint.ts';

/** A cell of the matrix: whether a test serves a requirement. */
export const PUT = defineEndpoint({
  input: linkTestSchema,
  output: doneSchema,
  handle: async ({ perform, body }) => {
    await perform(linkTest, body);
    return DONE;
  },
});
