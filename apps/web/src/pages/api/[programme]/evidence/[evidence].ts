import { doneSchema, idSchema } from '@kindred-baton/contracts/common';
import { dropEvidence, getEvidence } from '@kindred-baton/store/evidence/keep-evidence';
import { defineEndpoint, defineRawEndpoint } from '../../../../server/endpoint.ts';

export const GET = defineRawEndpoint(async ({ ask, param }) => {
  const { content, mediaType, name } = await ask(getEvidence, idSchema<'evidence'>().parse(param('evidence')));
  return new Response(new Uint8Array(content), {
    headers: {
      'content-type': mediaType,
      'content-disposition': `inline; filename*=UTF-8''${encodeURIComponent(name)}`,
      'content-security-policy': "sandbox; default-src 'none'",
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
});

/** Taken back, while its attempt is under way. */
export const DELETE = defineEndpoint({
  output: doneSchema,
  handle: ({ perform, param }) => perform(dropEvidence, idSchema<'evidence'>().parse(param('evidence'))),
});
