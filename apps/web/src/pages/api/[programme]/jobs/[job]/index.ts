import { DONE, doneSchema, idSchema } from '@kindred-baton/contracts/common';
import { jobSchema } from '@kindred-baton/contracts/jobs/job';
import { getJob, stopJob } from '@kindred-baton/store/jobs/jobs';
import { defineEndpoint } from '../../../../../server/endpoint.ts';

const readId = (text: string) => idSchema<'job'>().parse(text);

export const GET = defineEndpoint({ output: jobSchema, handle: ({ ask, param }) => ask(getJob, readId(param('job'))) });

/** Stops it. */
export const DELETE = defineEndpoint({
  output: doneSchema,
  handle: async ({ perform, param }) => {
    await perform(stopJob, readId(param('job')));
    return DONE;
  },
});
