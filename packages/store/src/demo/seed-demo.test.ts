import { sql } from 'drizzle-orm';
import { afterAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import { createStore } from '../database.ts';
import { findAnything } from '../find/find-anything.ts';
import { getConnectionCents } from './charges.ts';
import { seedDemo } from './seed-demo.ts';

describe('the demo programme', () => {
  const open: TestStore[] = [];
  afterAll(async () => {
    for (const db of open) await db.drop();
  });

  const lay = async (now: string) => {
    const db = await createTestStore('empty');
    open.push(db);
    const store = createStore({ url: db.url, now: () => new Date(now) });
    const isLaid = await seedDemo(store, 'no hash');
    const again = await seedDemo(store, 'no hash');
    const digest = await store.db.execute<{ digest: string }>(sql`
      select md5((select string_agg(id::text || status, ',' order by id) from turns) || (select string_agg(id::text || kept::text, ',' order by id) from attempts)) as digest`);
    await store.pool.end();
    return { isLaid, again, digest: digest.rows[0]?.digest };
  };

  it('comes out the same each time, and is laid only once', async () => {
    const first = await lay('2026-11-25T11:00:00Z');
    expect(first).toMatchObject({ isLaid: true, again: false });
    expect(await lay('2026-11-25T11:00:00Z')).toEqual(first);
  });

  it('is laid around today on a Sunday and at midnight too', async () => {
    expect((await lay('2026-11-29T00:00:30Z')).isLaid).toBe(true);
    expect((await lay('2027-01-01T23:59:00Z')).isLaid).toBe(true);
  });

  // Source: the demo's own page (design/demo): band B with 14.5 m costs 512.50.
  it('works charges out as its page says', () => {
    expect([getConnectionCents('B', 14.5), getConnectionCents('A', 10), getConnectionCents('C', 120)]).toEqual([51_250, 24_000, 586_500]);
  });

  it('is found by code, by words and by what begins with them first; signs of patterns are plain text', async () => {
    const db = await createTestStore('demo');
    open.push(db);
    const lead = await db.actorOf('Lea Marsh');
    const find = async (words: string) => (await db.ask(lead, findAnything, words)).found;
    expect((await find('BIL-01'))[0]).toMatchObject({ kind: 'test', code: 'BIL-01', path: '/tests/BIL-01' });
    expect((await find('price quote')).map(({ kind }) => kind)).toEqual(expect.arrayContaining(['node', 'test', 'turn']));
    expect(await find('100%_\\')).toEqual([]);
    expect(await find('')).toEqual([]);
  });
});
