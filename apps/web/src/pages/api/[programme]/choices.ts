import { choicesSchema } from '@kindred-baton/contracts/programmes/programme';
import { getChoices } from '@kindred-baton/store/programmes/get-viewer';
import { defineEndpoint } from '../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: choicesSchema, handle: ({ ask }) => ask(getChoices, undefined) });
