import { mailBoxSchema } from '@kindred-baton/contracts/programmes/programme';
import { listMails } from '@kindred-baton/store/programmes/get-set-up';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: mailBoxSchema, handle: ({ ask }) => ask(listMails, undefined) });
