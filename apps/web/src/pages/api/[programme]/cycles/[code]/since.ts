import { sinceOpeningSchema } from '@kindred-baton/contracts/cycles/cycle';
import { getSinceOpening } from '@kindred-baton/store/cycles/get-since-opening';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: sinceOpeningSchema, handle: ({ ask, param }) => ask(getSinceOpening, param('code')) });
