import type { MapComparison } from '@kindred-baton/core/imports/compare-map';
import type { MapEntry } from '@kindred-baton/core/imports/map-table';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getMap } from '../map/get-map.ts';
import { getChoices } from '../programmes/get-viewer.ts';
import { compareMapImport, storeMapImport } from './store-map-import.ts';

const entry = (code: string, parent: number, more: Partial<MapEntry> = {}): MapEntry => ({
  ...{ place: { sheet: 'L', row: 2 }, code, name: `Name of ${code}`, parent, outerParent: null, fields: {} },
  ...more,
});
const LIST = [entry('ZZ', -1), entry('ZZ-1', 0), entry('ZZ-1.1', 1, { fields: { team: 'Night desk' } })];
const CHOICE = { leftOut: [], missing: 'keep' as const };

describe('importing a process list', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const store = (entries: readonly MapEntry[], more: Partial<Parameters<typeof storeMapImport.run>[1]> = {}) =>
    db.perform(lead, storeMapImport, { entries, below: null, addsNames: true, choice: CHOICE, seen: () => true, ...more });
  const listCodes = async () =>
    (await db.ask(lead, getMap, undefined)).nodes.map(({ code }) => code).filter((code) => code.startsWith('ZZ'));

  it('takes all of it in, with the teams that it names, or nothing', async () => {
    await expect(store(LIST, { addsNames: false })).rejects.toThrow('nothing was stored');
    await expect(store(LIST, { seen: (_: MapComparison) => false })).rejects.toMatchObject({ code: 'conflict' });
    expect(await listCodes()).toEqual([]);
    expect(await store(LIST)).toEqual({ changed: 3 });
    expect(await listCodes()).toEqual(['ZZ', 'ZZ-1', 'ZZ-1.1']);
    expect((await db.ask(lead, getChoices, undefined)).teams.map(({ name }) => name)).toContain('Night desk');
  });

  it('changes nothing when the same list comes again, and only what differs when another does', async () => {
    expect(await store(LIST)).toEqual({ changed: 0 });
    const moved = [LIST[0]!, LIST[1]!, entry('ZZ-2', 0), entry('ZZ-1.1', 2, { name: 'Moved' })];
    const { differences } = await db.ask(lead, compareMapImport, { entries: moved, below: null, addsNames: false });
    expect(differences.filter(({ code, kind }) => code.startsWith('ZZ') && kind !== 'same').map(({ kind, code }) => [kind, code])).toEqual([
      ['new', 'ZZ-2'],
      ['moved', 'ZZ-1.1'],
    ]);
    await store(moved, { choice: { leftOut: ['ZZ-2'], missing: 'keep' } });
    expect(await listCodes()).toEqual(['ZZ', 'ZZ-1', 'ZZ-1.1']);
    await store(moved);
    expect(await listCodes()).toEqual(['ZZ', 'ZZ-1', 'ZZ-2', 'ZZ-1.1']);
  });
});
