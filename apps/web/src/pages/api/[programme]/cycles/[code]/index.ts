import { cycleDetailSchema } from '@kindred-baton/contracts/cycles/cycle';
import { getCycle } from '@kindred-baton/store/cycles/get-cycle';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: cycleDetailSchema, handle: ({ ask, param }) => ask(getCycle, param('code')) });
