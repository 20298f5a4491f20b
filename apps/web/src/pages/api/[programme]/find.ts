import { findQuerySchema, foundSchema } from '@kindred-baton/contracts/find/find';
import { findAnything } from '@kindred-baton/store/find/find-anything';
import { defineEndpoint } from '../../../server/endpoint.ts';

export const GET = defineEndpoint({ input: findQuerySchema, output: foundSchema, handle: ({ ask, body }) => ask(findAnything, body.q) });
