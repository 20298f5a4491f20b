import { progressQuerySchema, progressSchema } from '@kindred-baton/contracts/progress/progress';
import { getProgress } from '@kindred-baton/store/progress/get-progress';
import { defineEndpoint } from '../../../server/endpoint.ts';

export const GET = defineEndpoint({
  input: progressQuerySchema,
  output: progressSchema,
  handle: ({ ask, body }) => ask(getProgress, body),
});
