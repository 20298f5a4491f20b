import { turnListQuerySchema, turnListSchema } from '@kindred-baton/contracts/turns/turn';
import { listTurns } from '@kindred-baton/store/turns/list-turns';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ input: turnListQuerySchema, output: turnListSchema, handle: ({ ask, body }) => ask(listTurns, body) });
