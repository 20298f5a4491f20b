import { defectListSchema, logDefectSchema } from '@kindred-baton/contracts/defects/defect';
import { logDefect } from '@kindred-baton/store/defects/change-defects';
import { listDefects } from '@kindred-baton/store/defects/get-defects';
import { z } from 'zod';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: defectListSchema, handle: ({ ask }) => ask(listDefects, undefined) });

export const POST = defineEndpoint({
  input: logDefectSchema,
  output: z.object({ code: z.string() }),
  handle: ({ perform, body }) => perform(logDefect, body),
});
