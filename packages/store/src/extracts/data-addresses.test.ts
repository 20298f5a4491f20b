import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { leaveProgramme } from '../programmes/change-people.ts';
import { dataAddresses } from '../schema/data-addresses.ts';
import { addAddress, findReader, listAddresses, withdrawAddress } from './data-addresses.ts';

describe('an address for data', () => {
  let db: TestStore;
  let lead: Actor;
  let observer: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
    observer = await db.actorOf('Cora Vane');
  });
  afterAll(() => db.drop());

  it('reads as its owner does; its token is told once and kept as a hash; that it was used is noted', async () => {
    const { token } = await db.perform(observer, addAddress, { name: 'Steering sheet', daysValid: null });
    expect(token).toMatch(/^kbd_[\w-]{43}$/);
    expect(JSON.stringify(await db.store.db.select().from(dataAddresses))).not.toContain(token.slice(4));
    expect(await findReader(db.store, token)).toEqual(observer);
    expect(await db.ask(observer, listAddresses, undefined)).toMatchObject([{ name: 'Steering sheet', expiresAt: null }]);
    expect((await db.ask(observer, listAddresses, undefined))[0]?.usedAt).not.toBeNull();
    expect(await db.ask(lead, listAddresses, undefined)).toEqual([]);
    expect(await findReader(db.store, `${token.slice(0, -1)}x`)).toBeUndefined();
  });

  it('ends when its time is over, and when its owner, nobody else, withdraws it', async () => {
    const short = await db.perform(lead, addAddress, { name: 'For a day', daysValid: 1 });
    expect(await findReader(db.store, short.token)).toEqual(lead);
    const tomorrow = { ...db.store, now: () => new Date(Date.now() + 86_400_001) };
    expect(await findReader(tomorrow, short.token)).toBeUndefined();
    await expect(db.perform(observer, withdrawAddress, short.id)).rejects.toThrow('You have no such address.');
    await db.perform(lead, withdrawAddress, short.id);
    expect(await findReader(db.store, short.token)).toBeUndefined();
  });

  it('is at most one of twenty', async () => {
    const karim = await db.actorOf('Karim Bol');
    for (let at = 0; at < 20; at += 1) await db.perform(karim, addAddress, { name: `Sheet ${at}`, daysValid: 30 });
    await expect(db.perform(karim, addAddress, { name: 'One more', daysValid: 30 })).rejects.toThrow('You have 20 addresses already.');
  });

  it('is nobody’s when its owner has left the programme', async () => {
    const una = await db.actorOf('Una Petrel');
    const { token } = await db.perform(una, addAddress, { name: 'Mine', daysValid: null });
    await db.perform(lead, leaveProgramme, { personId: una.personId, handTo: null });
    expect(await findReader(db.store, token)).toBeUndefined();
    // Should she come back, it stays gone.
    expect((await db.store.db.select().from(dataAddresses)).some(({ personId }) => personId === una.personId)).toBe(false);
  });
});
