import { mapWaySchema } from '@kindred-baton/contracts/scenarios/reuse';
import { getMapWay } from '@kindred-baton/store/scenarios/follow-map';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: mapWaySchema, handle: ({ ask, param }) => ask(getMapWay, param('code')) });
