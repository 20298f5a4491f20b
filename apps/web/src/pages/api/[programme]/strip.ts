import { stripSchema } from '@kindred-baton/contracts/programmes/programme';
import { getStrip } from '@kindred-baton/store/map/get-strip';
import { defineEndpoint } from '../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: stripSchema, handle: ({ ask }) => ask(getStrip, undefined) });
