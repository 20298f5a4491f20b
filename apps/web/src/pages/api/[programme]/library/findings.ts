import { findingFilterSchema, libraryFindingsSchema } from '@kindred-baton/contracts/tests/library';
import { getLibraryFindings } from '@kindred-baton/store/tests/get-library-findings';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({
  input: findingFilterSchema,
  output: libraryFindingsSchema,
  handle: ({ ask, body }) => ask(getLibraryFindings, body),
});
