import { historyQuerySchema, historyViewSchema } from '@kindred-baton/contracts/programmes/programme';
import { getHistory } from '@kindred-baton/store/programmes/get-set-up';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({
  input: historyQuerySchema,
  output: historyViewSchema,
  handle: ({ ask, body }) => ask(getHistory, body),
});
