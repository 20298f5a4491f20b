import { legProposalsSchema } from '@kindred-baton/contracts/scenarios/reuse';
import { proposeForLegs } from '@kindred-baton/store/scenarios/propose-for-legs';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: legProposalsSchema, handle: ({ ask, param }) => ask(proposeForLegs, param('code')) });
