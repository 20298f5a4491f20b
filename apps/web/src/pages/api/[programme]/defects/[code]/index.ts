import { DONE, doneSchema } from '@kindred-baton/contracts/common';
import { changeDefectSchema, defectDetailSchema } from '@kindred-baton/contracts/defects/defect';
import { getDefect } from '@kindred-baton/store/defects/get-defects';
import { changeDefect } from '@kindred-baton/store/defects/talk-about-defects';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: defectDetailSchema, handle: ({ ask, param }) => ask(getDefect, param('code')) });

export const PATCH = defineEndpoint({
  input: changeDefectSchema,
  output: doneSchema,
  handle: async ({ perform, param, body }) => {
    await perform(changeDefect, { code: param('code'), change: body });
    return DONE;
  },
});
