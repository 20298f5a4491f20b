import { saveRequirementSchema, traceabilitySchema } from '@kindred-baton/contracts/requirements/requirement';
import { saveRequirement } from '@kindred-baton/store/requirements/change-requirements';
import { getTraceability } from '@kindred-baton/store/requirements/list-requirements';
import { z } from 'zod';
import { defineEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineEndpoint({ output: traceabilitySchema, handle: ({ ask }) => ask(getTraceability, undefined) });

export const POST = defineEndpoint({
  input: saveRequirementSchema,
  output: z.object({ code: z.string() }),
  handle: ({ perform, body }) => perform(saveRequirement, { code: null, save: body }),
});
