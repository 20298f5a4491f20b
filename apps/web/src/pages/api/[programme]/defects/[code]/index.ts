import { defectDetailSchema } from '@kindred-baton/contracts/defects/defect';
import { getDefect } from '@kindred-baton/store/defects/get-defects';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: defectDetailSchema, handle: ({ ask, param }) => ask(getDefect, param('code')) });
