import { findChainSchema, foundChainSchema } from '@kindred-baton/contracts/scenarios/reuse';
import { findChainInLibrary } from '@kindred-baton/store/scenarios/find-chain';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({
  input: findChainSchema,
  output: foundChainSchema,
  handle: ({ ask, body }) => ask(findChainInLibrary, body),
});
