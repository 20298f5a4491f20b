import type { JobId } from '@kindred-baton/core/ids';
import type { ClaimedJob, JobEnd } from '@kindred-baton/store/jobs/work-on-job';
import { claimJob, endJob, recoverJobs, reportProgress } from '@kindred-baton/store/jobs/work-on-job';
import PgBoss from 'pg-boss';
import { exportTests } from './answers/tests/answer-export-job.ts';
import { getConfig } from './config.ts';
import { getLog } from './log.ts';
import { getStore } from './store.ts';

const QUEUE = 'work';
const POLL_SECONDS = 0.5;
const MOST_HOURS = 4;

/** Says how far a job is; false when it is to stop. */
export type Report = (done: number) => Promise<boolean>;
/** Undefined when it was stopped. */
type Work = (job: ClaimedJob, report: Report) => Promise<Extract<JobEnd, { state: 'done' }> | undefined>;

/** Kinds of work. Adding one: a line here, and its request in store/jobs. */
const WORK: Readonly<Record<string, Work>> = { export: exportTests };

let boss: Promise<PgBoss> | undefined;

/** Starts the worker of this server, once; jobs that an earlier server left behind are done anew. */
export function startWorker(): Promise<PgBoss> {
  boss ??= start().catch((error: unknown) => {
    boss = undefined;
    throw error;
  });
  return boss;
}

async function start(): Promise<PgBoss> {
  const queue = new PgBoss({ connectionString: getConfig().DATABASE_URL, max: 2, application_name: 'kindred-baton-worker' });
  queue.on('error', (error) => getLog().warn({ error }, 'the work queue stumbled'));
  await queue.start();
  await queue.createQueue(QUEUE, { name: QUEUE, policy: 'standard', retryLimit: 0, expireInHours: MOST_HOURS });
  const left = await recoverJobs(getStore());
  await queue.work<{ id: JobId }>(QUEUE, { batchSize: 1, pollingIntervalSeconds: POLL_SECONDS }, async ([sent]) => {
    if (sent) await workOn(sent.data.id);
  });
  for (const id of left) await queue.send(QUEUE, { id });
  return queue;
}

export async function sendToWorker(id: JobId): Promise<void> {
  await (await startWorker()).send(QUEUE, { id });
}

async function workOn(id: JobId): Promise<void> {
  const store = getStore();
  const job = await claimJob(store, id);
  if (!job) return;
  try {
    const work = WORK[job.kind];
    if (!work) throw new Error(`there is no work of the kind ${job.kind}`);
    const end = await work(job, (done) => reportProgress(store, id, done));
    if (end) await endJob(store, id, end);
  } catch (error) {
    getLog().error({ error, job: id }, 'work failed');
    await endJob(store, id, { state: 'failed', message: error instanceof Error ? error.message : 'It failed.' });
  }
}
