import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getJob, getJobFile, requestExport, stopJob } from './jobs.ts';
import { claimJob, endJob, recoverJobs, reportProgress } from './work-on-job.ts';

describe('work that takes a while', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const request = async () => (await db.perform(lead, requestExport, { format: 'md', codes: ['BIL-01', 'BIL-02'], paper: 'A4' })).id;
  const end = { state: 'done' as const, content: new Uint8Array([1, 2]), fileName: 'x.md', mediaType: 'text/markdown' };

  it('is claimed once, tells how far it is, and ends with a file', async () => {
    const id = await request();
    expect(await claimJob(db.store, id)).toMatchObject({ kind: 'export', programmeKey: 'brindlemere', input: { format: 'md' } });
    expect(await claimJob(db.store, id)).toBeUndefined();
    expect(await reportProgress(db.store, id, 1)).toBe(true);
    expect(await db.ask(lead, getJob, id)).toMatchObject({ state: 'under way', done: 1, total: 2 });
    await expect(db.ask(lead, getJobFile, id)).rejects.toThrow('the work is under way');
    await endJob(db.store, id, end);
    expect([...(await db.ask(lead, getJobFile, id)).bytes]).toEqual([1, 2]);
  });

  it('is stopped for good: the worker notices, and its file is dropped', async () => {
    const id = await request();
    await claimJob(db.store, id);
    await db.perform(lead, stopJob, id);
    expect(await reportProgress(db.store, id, 2)).toBe(false);
    await endJob(db.store, id, end);
    expect(await db.ask(lead, getJob, id)).toMatchObject({ state: 'stopped', fileName: null });
  });

  it('waits again when the server that did it is gone', async () => {
    const id = await request();
    await claimJob(db.store, id);
    expect(await recoverJobs(db.store)).toContain(id);
    expect(await claimJob(db.store, id)).toBeDefined();
  });

  it('belongs to who asked for it', async () => {
    const id = await request();
    const other = await db.actorOf('Edda Quill');
    await expect(db.ask(other, getJob, id)).rejects.toThrow('no such work');
    await expect(db.perform(other, stopJob, id)).rejects.toThrow('no such work');
  });
});
