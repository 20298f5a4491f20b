import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { SaveDoor } from '@kindred-baton/contracts/doors/door';
import { saveDoorSchema } from '@kindred-baton/contracts/doors/door';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { takeProgrammeOut } from '../programmes/take-out.ts';
import { getSetUp } from '../programmes/get-set-up.ts';
import { addKey, seal, unseal } from '../secrets.ts';
import { getSealedDoor, listDoors, removeDoor, saveDoor } from './doors.ts';

describe('doors of environments', () => {
  let db: TestStore;
  let lead: Actor;
  let door: SaveDoor;
  const ring = addKey(undefined);
  const sealHere = (secret: string, place: string) => seal(ring, secret, place);
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
    const { applications, environments } = await db.ask(lead, getSetUp, undefined);
    door = saveDoorSchema.parse({
      ...{ environmentId: environments[0]!.id, applicationId: applications[0]!.id, name: 'Night interface', kind: 'interface' },
      ...{ address: 'https://night.example/api', signIn: 'bearer', secret: 's3cret-of-the-door' },
    });
  });
  afterAll(() => db.drop());

  it('keep a secret sealed, say that there is one, and leave it where it is while the address stays', async () => {
    const { id } = await db.perform(lead, saveDoor, { id: null, save: door, seal: sealHere });
    const open = async () => {
      const { secret, place } = await db.ask(lead, getSealedDoor, id);
      return secret && unseal(ring, secret, place);
    };
    expect(await open()).toBe('s3cret-of-the-door');
    const { secret: _, ...same } = door;
    await db.perform(lead, saveDoor, { id, save: { ...same, name: 'Day interface' }, seal: sealHere });
    expect(await open()).toBe('s3cret-of-the-door');
    expect((await db.ask(await db.actorOf('Ines Varga'), listDoors, undefined)).doors).toMatchObject([
      { name: 'Day interface', hasSecret: true },
    ]);
    // Whoever may set up could else send it to a place of her own.
    await db.perform(lead, saveDoor, { id, save: { ...same, address: 'https://elsewhere.example/' }, seal: sealHere });
    expect(await open()).toBeNull();
    await db.perform(lead, saveDoor, { id, save: door, seal: sealHere });
    await db.perform(lead, saveDoor, { id, save: { ...door, secret: '' }, seal: sealHere });
    expect(await open()).toBeNull();
    await db.perform(lead, saveDoor, { id, save: door, seal: sealHere });
  });

  it('are not taken out with their secrets, in no form', async () => {
    const text = JSON.stringify(await takeProgrammeOut(db.store, 'brindlemere'));
    expect(text).toContain('Night interface');
    expect(text).not.toContain('s3cret-of-the-door');
    const { rows } = await db.store.pool.query<{ hex: string }>("select encode(secret, 'hex') as hex from doors");
    expect(text).not.toContain(rows[0]!.hex);
  });

  it('are named once in an environment, changed by whoever sets up, and gone with what they stood in', async () => {
    await expect(db.perform(lead, saveDoor, { id: null, save: door, seal: sealHere })).rejects.toThrow(
      'has a door “Night interface” already',
    );
    const [known] = (await db.ask(lead, listDoors, undefined)).doors;
    const tester = await db.actorOf('Ines Varga');
    await expect(db.perform(tester, saveDoor, { id: null, save: door, seal: sealHere })).rejects.toThrow();
    await expect(db.ask(tester, getSealedDoor, known!.id)).rejects.toThrow();
    await db.perform(lead, removeDoor, { id: known!.id });
    expect((await db.ask(lead, listDoors, undefined)).doors).toEqual([]);
  });

  it.each([
    [{ address: 'ftp://x' }, 'Write it like https://host/api.'],
    [{ address: 'https://me:secret@x/' }, 'User and password do not stand in the address: they have fields of their own.'],
    [{ address: 'https://x/?a=1' }, 'It ends where the paths of questions begin, without ? and #.'],
    [{ kind: 'database', address: 'postgresql://x/y?host=/tmp', userName: 'u' }, 'Behind the ? it may say sslmode, and nothing else.'],
    [{ kind: 'database', address: 'postgresql://x/y' }, 'Say with which user the database is read.'],
    [{ signIn: 'header', userName: 'a b' }, 'Say the field of the header, such as X-Api-Key.'],
  ])('refuse %j', (change, message) => {
    const { error } = saveDoorSchema.safeParse({ ...door, ...change });
    expect(error?.issues.map((issue) => issue.message)).toContain(message);
  });
});
