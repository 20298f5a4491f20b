import { cycleScopeSchema } from '@kindred-baton/contracts/cycles/cycle';
import { getCycleScope } from '@kindred-baton/store/cycles/get-cycle-scope';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: cycleScopeSchema, handle: ({ ask }) => ask(getCycleScope, undefined) });
