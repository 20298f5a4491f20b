import { and, eq, inArray, lt } from 'drizzle-orm';
import type { JobId, PersonId } from '@kindred-baton/core/ids';
import type { Store } from '../database.ts';
import { jobs } from '../schema/jobs.ts';
import { programmes } from '../schema/programmes.ts';

/** For the worker alone, which acts in the name of the person who asked: people go through jobs.ts. */
export interface ClaimedJob {
  readonly id: JobId;
  readonly kind: string;
  readonly input: Readonly<Record<string, unknown>>;
  readonly personId: PersonId;
  readonly programmeKey: string;
}

/** Takes a waiting job; undefined when it was stopped, or somebody else has it. */
export async function claimJob(store: Store, id: JobId): Promise<ClaimedJob | undefined> {
  const [job] = await store.db
    .update(jobs)
    .set({ state: 'under way', done: 0 })
    .where(and(eq(jobs.id, id), eq(jobs.state, 'waiting')))
    .returning();
  if (!job) return undefined;
  const [programme] = await store.db.select({ key: programmes.key }).from(programmes).where(eq(programmes.id, job.programmeId));
  return { id, kind: job.kind, input: job.input, personId: job.personId, programmeKey: programme?.key ?? '' };
}

/** Notes how far it is; false when somebody has stopped it. */
export async function reportProgress(store: Store, id: JobId, done: number): Promise<boolean> {
  const rows = await store.db
    .update(jobs)
    .set({ done })
    .where(and(eq(jobs.id, id), eq(jobs.state, 'under way')))
    .returning({ id: jobs.id });
  return rows.length > 0;
}

export type JobEnd =
  | { readonly state: 'done'; readonly content: Uint8Array; readonly fileName: string; readonly mediaType: string }
  | { readonly state: 'failed'; readonly message: string };

/** Ends a job that is under way; one that was stopped stays stopped. */
export async function endJob(store: Store, id: JobId, end: JobEnd): Promise<void> {
  const { state, ...rest } = end;
  const set = 'content' in rest ? { ...rest, content: Buffer.from(rest.content) } : rest;
  await store.db
    .update(jobs)
    .set({ state, endedAt: store.now(), ...set })
    .where(and(eq(jobs.id, id), eq(jobs.state, 'under way')));
}

const KEPT_HOURS = 24;

/** Jobs of a server that is gone wait again; files of the day before are dropped. Answers the jobs that wait. */
export async function recoverJobs(store: Store): Promise<JobId[]> {
  const before = new Date(store.now().getTime() - KEPT_HOURS * 3_600_000);
  await store.db.delete(jobs).where(lt(jobs.createdAt, before));
  await store.db
    .update(jobs)
    .set({ state: 'waiting', done: 0 })
    .where(inArray(jobs.state, ['under way']));
  const rows = await store.db.select({ id: jobs.id }).from(jobs).where(eq(jobs.state, 'waiting'));
  return rows.map(({ id }) => id);
}
