import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import { layDemoDoors } from '../demo/lay-doors.ts';
import { letDemoRunnersIn } from '../demo/let-runners-in.ts';
import { listDoors, getSealedDoor } from '../doors/doors.ts';
import type { KeyRing } from '../secrets.ts';
import { addKey, seal, unseal } from '../secrets.ts';
import { countByKey, resealSecrets } from './rotate-secrets.ts';

describe('a new key', () => {
  let db: TestStore;
  const old = addKey(undefined);
  const sealWith = (ring: KeyRing) => (secret: string, place: string) => seal(ring, secret, place);
  beforeAll(async () => {
    db = await createTestStore('demo');
    await layDemoDoors(db.store, { address: 'http://127.0.0.1:1', databaseUrl: 'postgresql://x@127.0.0.1:2/millrace' }, sealWith(old));
    await letDemoRunnersIn(db.store, { seal: sealWith(old), token: '' });
  });
  afterAll(() => db.drop());

  it('seals every password and every secret of a door; each is what it was, and the old key opens none', async () => {
    const [[name, before]] = [...(await countByKey(db.store.db))] as [[string, number]];
    expect([name, before > 10]).toEqual(['k1', true]);
    const next = addKey(old);
    expect(await resealSecrets(db.store, next)).toBe(before);
    expect([...(await countByKey(db.store.db))]).toEqual([['k2', before]]);
    const lead = await db.actorOf('Lea Marsh');
    const { doors } = await db.ask(lead, listDoors, undefined);
    const { secret, place } = await db.ask(lead, getSealedDoor, doors.find(({ kind }) => kind === 'database')!.id);
    expect(unseal({ current: 'k2', keys: { k2: next.keys['k2']! } }, secret!, place)).toBe('practice-reader');
    expect(() => unseal(old, secret!, place)).toThrow('the key that sealed it is gone');
  });

  it('leaves all as it was where one secret does not open', async () => {
    const { rows } = await db.store.pool.query<{ id: string }>(
      "update doors set secret = decode('00', 'hex') || secret where id = (select id from doors limit 1) returning id",
    );
    expect(rows).toHaveLength(1);
    const before = await countByKey(db.store.db);
    await expect(resealSecrets(db.store, addKey(addKey(old)))).rejects.toThrow('cannot be opened');
    expect(await countByKey(db.store.db)).toEqual(before);
  });
});
