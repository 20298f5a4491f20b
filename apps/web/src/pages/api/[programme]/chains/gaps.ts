import { mapGapsSchema } from '@kindred-baton/contracts/scenarios/reuse';
import { getMapGaps } from '@kindred-baton/store/scenarios/follow-map';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: mapGapsSchema, handle: ({ ask }) => ask(getMapGaps, undefined) });
