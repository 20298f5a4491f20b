import { DONE } from '@kindred-baton/contracts/common';
import type { jobRoutes } from '@kindred-baton/contracts/jobs/routes';
import { getJob, getJobFile, requestExport, stopJob } from '@kindred-baton/store/jobs/jobs';
import { answerFile } from '../../answer-file.ts';
import type { Answers } from '../../call.ts';
import { sendToWorker } from '../../worker.ts';

export const jobAnswers: Answers<typeof jobRoutes> = {
  exportTests: async ({ perform, input }) => {
    const job = await perform(requestExport, input);
    await sendToWorker(job.id);
    return job;
  },
  getJob: ({ ask, params }) => ask(getJob, params.job),
  stopJob: async ({ perform, params }) => {
    await perform(stopJob, params.job);
    return DONE;
  },
  getJobFile: async ({ ask, params }) => {
    const { bytes, ...file } = await ask(getJobFile, params.job);
    return answerFile(bytes, file);
  },
};
