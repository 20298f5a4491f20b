import { DONE, doneSchema } from '@kindred-baton/contracts/common';
import { saveRequirementSchema } from '@kindred-baton/contracts/requirements/requirement';
import { removeRequirement, saveRequirement } from '@kindred-baton/store/requirements/change-requirements';
import { z } from 'zod';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const PUT = defineEndpoint({
  input: saveRequirementSchema,
  output: z.object({ code: z.string() }),
  handle: ({ perform, param, body }) => perform(saveRequirement, { code: param('code'), save: body }),
});

export const DELETE = defineEndpoint({
  output: doneSchema,
  handle: async ({ perform, param }) => {
    await perform(removeRequirement, { code: param('code') });
    return DONE;
  },
});
