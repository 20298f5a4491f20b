import { getProgress } from '@kindred-baton/store/progress/get-progress';
import { progressQuerySchema } from '@kindred-baton/contracts/progress/progress';
import { getCycle } from '@kindred-baton/store/cycles/get-cycle';
import { getAcceptance } from '@kindred-baton/store/cycles/acceptance';
import { listDefects } from '@kindred-baton/store/defects/get-defects';
import { getMap } from '@kindred-baton/store/map/get-map';
import { getStrip } from '@kindred-baton/store/map/get-strip';
import { ask } from '@kindred-baton/store/operation';
import type { Query } from '@kindred-baton/store/operation';
import { createStore } from '@kindred-baton/store/database';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { TestStore } from '../../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../../tests/support/test-store.ts';
import { askAside } from './ask-aside.ts';

describe('a read that is done aside', { timeout: 120_000 }, () => {
  let db: TestStore;
  beforeAll(async () => {
    db = await createTestStore('demo');
    vi.stubEnv('DATABASE_URL', db.url);
    vi.stubEnv('KINDRED_BATON_SECRET', 'a-secret-of-this-test-alone-0123456789');
  });
  afterAll(async () => {
    vi.unstubAllEnvs();
    await db.drop();
  });

  it('answers what the store answers, to everybody and to a person', async () => {
    const [lea, greta] = [await db.actorOf('Lea Marsh'), await db.actorOf('Greta Holm')];
    const query = progressQuerySchema.parse({});
    expect(await askAside(lea)(getProgress, query)).toEqual(await db.ask(lea, getProgress, query));
    for (const each of [getMap, listDefects] as Query<void, unknown>[])
      expect(await askAside(greta)(each, undefined)).toEqual(await db.ask(lea, each, undefined));
    expect(await askAside(lea)(getStrip, {})).toEqual(await db.ask(lea, getStrip, {}));
    // Whether she may decide is her own.
    const decides = async (actor: typeof lea) => (await askAside(actor)(getAcceptance, 'ACC-2')).nodes.some(({ canSign }) => canSign);
    expect([await decides(greta), await decides(lea)]).toEqual([true, false]);
  });

  it('refuses as the store refuses', async () => {
    const lea = await db.actorOf('Lea Marsh');
    await expect(askAside(lea)(getCycle, 'NONE')).rejects.toMatchObject({ code: 'not found' });
  });

  it('is stopped by the database after its time, and when its reader leaves', async () => {
    const lea = await db.actorOf('Lea Marsh');
    const store = createStore({ url: db.url });
    const sleeps: Query<number, unknown> = { right: 'read', read: ({ db: reader }, s) => reader.execute(sql`select pg_sleep(${s})`) };
    const bounds = (mostMs: number, leave = new AbortController().signal) => ({ mostMs, leave });
    await expect(ask(store, lea, sleeps, 20, bounds(100))).rejects.toMatchObject({
      ...{ code: 'too large', message: expect.stringContaining('Choose less of it') as string },
    });
    const reader = new AbortController();
    const asked = ask(store, lea, sleeps, 20, bounds(60_000, reader.signal));
    setTimeout(() => reader.abort(), 100);
    await expect(asked).rejects.toMatchObject({ code: 'too large' });
    // The connection serves others as before, and nobody gives their statements up.
    const other = new AbortController();
    await ask(store, lea, sleeps, 0, bounds(60_000, other.signal));
    other.abort();
    await ask(store, lea, sleeps, 0.05, bounds(60_000));
    await store.pool.end();
  });

  it('and who leaves while all connections are busy stops nobody else’s', async () => {
    const lea = await db.actorOf('Lea Marsh');
    const store = createStore({ url: db.url, maxConnections: 3 });
    const sleeps: Query<number, unknown> = { right: 'read', read: ({ db: reader }, s) => reader.execute(sql`select pg_sleep(${s})`) };
    const reader = new AbortController();
    const look = (seconds: number, leave = new AbortController().signal) => ask(store, lea, sleeps, seconds, { mostMs: 60_000, leave });
    // Hers ends first; the connection that it had then serves one that waited for it.
    const left = look(0.1, reader.signal).catch(() => undefined);
    const stay = [look(0.2), look(0.2), look(0.6), look(0.6)];
    setTimeout(() => reader.abort(), 50);
    await Promise.all([left, ...stay]);
    await store.pool.end();
  });
});
