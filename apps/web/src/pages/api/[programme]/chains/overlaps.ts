import { overlapsSchema } from '@kindred-baton/contracts/scenarios/reuse';
import { getOverlaps } from '@kindred-baton/store/scenarios/get-overlaps';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: overlapsSchema, handle: ({ ask }) => ask(getOverlaps, undefined) });
