import { DONE, doneSchema } from '@kindred-baton/contracts/common';
import { moveDefectSchema } from '@kindred-baton/contracts/defects/defect';
import { moveDefect } from '@kindred-baton/store/defects/change-defects';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  input: moveDefectSchema,
  output: doneSchema,
  handle: async ({ perform, param, body }) => {
    await perform(moveDefect, { code: param('code'), move: body });
    return DONE;
  },
});
