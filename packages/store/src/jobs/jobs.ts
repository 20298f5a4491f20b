import { and, eq, inArray } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ExportTests, JobView } from '@kindred-baton/contracts/jobs/job';
import type { JobId } from '@kindred-baton/core/ids';
import { createId } from '../ids.ts';
import type { Context, Operation, Query, ReadContext } from '../operation.ts';
import type { JobRow } from '../schema/jobs.ts';
import { jobs } from '../schema/jobs.ts';

/** Asks for tests to be written out; a worker does it. */
export const requestExport: Operation<ExportTests, { id: JobId }> = {
  right: 'read',
  run: async ({ db, actor }, input) => {
    const id = createId<'job'>();
    await db
      .insert(jobs)
      .values({ id, programmeId: actor.programmeId, personId: actor.personId, kind: 'export', input, total: input.codes.length });
    return { id };
  },
};

/** How far a job of one's own is. */
export const getJob: Query<JobId, JobView> = {
  right: 'read',
  read: async (context, id) => {
    const { state, done, total, message, fileName } = await requireOwnJob(context, id);
    return { id, state, done, total, message, fileName };
  },
};

/** What came out of a job of one's own. */
export const getJobFile: Query<JobId, { bytes: Uint8Array; name: string; mediaType: string }> = {
  right: 'read',
  read: async (context, id) => {
    const { content, fileName, mediaType, state } = await requireOwnJob(context, id);
    if (!content || !fileName || !mediaType) throw new AppError('not found', `There is no file: the work is ${state}.`);
    return { bytes: content, name: fileName, mediaType };
  },
};

/** Stops a job; what it has written so far is dropped. */
export const stopJob: Operation<JobId, { done: true }> = {
  right: 'read',
  run: async (context, id) => {
    const job = await requireOwnJob(context, id);
    await context.db
      .update(jobs)
      .set({ state: 'stopped', endedAt: context.now })
      .where(and(eq(jobs.id, job.id), inArray(jobs.state, ['waiting', 'under way'])));
    return { done: true };
  },
};

async function requireOwnJob({ db, actor }: Context | ReadContext, id: JobId): Promise<JobRow> {
  const [job] = await db
    .select()
    .from(jobs)
    .where(and(eq(jobs.id, id), eq(jobs.programmeId, actor.programmeId), eq(jobs.personId, actor.personId)));
  if (!job) throw new AppError('not found', 'There is no such work of yours.');
  return job;
}
