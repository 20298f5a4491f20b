import { doneSchema } from '@kindred-baton/contracts/common';
import { sayDefectSchema } from '@kindred-baton/contracts/defects/defect';
import { sayDefect } from '@kindred-baton/store/defects/talk-about-defects';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const POST = defineEndpoint({
  input: sayDefectSchema,
  output: doneSchema,
  handle: ({ perform, param, body }) => perform(sayDefect, { code: param('code'), ...body }),
});
