import { z } from 'zod';
import { doneSchema, idSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import { exportTestsSchema, jobSchema } from './job.ts';

const job = { job: idSchema<'job'>() };

export const jobRoutes = defineRoutes({
  /** Many, as work whose progress is shown. */
  exportTests: {
    ...{ method: 'POST', path: '/library/export', input: exportTestsSchema, output: z.object({ id: idSchema<'job'>() }) },
    ...{ right: 'read', topics: [] },
  },
  getJob: { method: 'GET', path: '/jobs/:job', params: job, output: jobSchema, right: 'read', topics: [] },
  stopJob: { method: 'DELETE', path: '/jobs/:job', params: job, output: doneSchema, right: 'read', topics: [] },
  getJobFile: { method: 'GET', path: '/jobs/:job/file', params: job, output: null, right: 'read', topics: [] },
});
