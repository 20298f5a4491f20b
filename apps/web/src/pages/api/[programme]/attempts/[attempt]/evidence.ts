import { evidenceSchema } from '@kindred-baton/contracts/turns/turn';
import { idSchema } from '@kindred-baton/contracts/common';
import { keepEvidence } from '@kindred-baton/store/evidence/keep-evidence';
import { readEvidence } from '../../../../../server/answers/turns/read-evidence.ts';
import { defineRawEndpoint } from '../../../../../server/endpoint.ts';
import { readForm } from '../../../../../server/read-body.ts';

const MAX_FORM_BYTES = 11 * 1024 * 1024;

export const POST = defineRawEndpoint(async ({ request, param, perform }) => {
  const file = await readEvidence(await readForm(request, MAX_FORM_BYTES));
  const kept = await perform(keepEvidence, { ...file, attemptId: idSchema<'attempt'>().parse(param('attempt')) });
  return Response.json(evidenceSchema.parse(kept));
});
