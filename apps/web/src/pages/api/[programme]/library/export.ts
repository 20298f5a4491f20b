import { exportTestsSchema } from '@kindred-baton/contracts/jobs/job';
import { idSchema } from '@kindred-baton/contracts/common';
import { requestExport } from '@kindred-baton/store/jobs/jobs';
import { z } from 'zod';
import { answerTestExport } from '../../../../server/answers/tests/answer-test-export.ts';
import { defineEndpoint, defineRawEndpoint } from '../../../../server/endpoint.ts';
import { sendToWorker } from '../../../../server/worker.ts';

/** One test as a file, at once. */
export const GET = defineRawEndpoint(answerTestExport);

/** Many, as work whose progress is shown. */
export const POST = defineEndpoint({
  input: exportTestsSchema,
  output: z.object({ id: idSchema<'job'>() }),
  handle: async ({ perform, body }) => {
    const job = await perform(requestExport, body);
    await sendToWorker(job.id);
    return job;
  },
});
