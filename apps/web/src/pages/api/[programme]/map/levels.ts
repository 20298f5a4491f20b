import { DONE, doneSchema } from '@kindred-baton/contracts/common';
import { changeLevelsSchema } from '@kindred-baton/contracts/map/node';
import { changeLevels } from '@kindred-baton/store/map/edit-map';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const PUT = defineEndpoint({
  input: changeLevelsSchema,
  output: doneSchema,
  handle: async ({ perform, body }) => {
    await perform(changeLevels, body);
    return DONE;
  },
});
