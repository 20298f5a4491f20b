import { idSchema } from '@kindred-baton/contracts/common';
import { getJobFile } from '@kindred-baton/store/jobs/jobs';
import { answerFile } from '../../../../../server/answer-file.ts';
import { defineRawEndpoint } from '../../../../../server/endpoint.ts';

export const GET = defineRawEndpoint(async ({ ask, param }) => {
  const { bytes, ...file } = await ask(getJobFile, idSchema<'job'>().parse(param('job')));
  return answerFile(bytes, file);
});
