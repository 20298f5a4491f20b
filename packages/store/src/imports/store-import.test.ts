import { checkImport } from '@kindred-baton/core/imports/check-import';
import type { ImportDocument } from '@kindred-baton/core/imports/import-document';
import { toTestKey } from '@kindred-baton/core/scenarios/draw-legs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { editMap } from '../map/edit-map.ts';
import { getMap } from '../map/get-map.ts';
import { getScenario } from '../scenarios/get-scenario.ts';
import { loadSurroundings } from './load-surroundings.ts';
import { storeImport } from './store-import.ts';

const place = { sheet: 'Processes', row: 2 };
const node = (code: string, parent: string | null) => ({
  place,
  code,
  name: code,
  parent,
  team: 'Billing',
  application: null,
  isCritical: true,
  description: '',
});
const step = (value: string, keepAs?: string) => ({ place, step: { do: 'fill' as const, target: 'T', value, keepAs } });
const DOCUMENT: ImportDocument = {
  nodes: [node('ZZ-1', 'ZZ'), node('ZZ', null)],
  tests: [
    {
      place,
      code: 'ZT-1',
      name: 'First',
      activity: 'ZZ-1',
      team: null,
      application: null,
      minutes: 9,
      steps: [step('{Street}', 'Lamp no.')],
    },
    { place, code: 'ZT-2', name: 'Second', activity: 'ZZ-1', team: 'Stores', application: null, minutes: 9, steps: [step('{Lamp no.}')] },
  ],
  fields: [{ place, test: 'ZT-1', field: { name: 'Lamp no.', type: 'code', pattern: 'L-99' } }],
  scenarios: [
    {
      place,
      code: 'ZS-1',
      name: 'Lamp',
      process: 'ZZ',
      legs: [
        { place, test: 'ZT-1', title: '', team: null },
        { place, test: 'ZT-2', title: '', team: null },
        { place, test: null, title: 'Thank', team: 'Finance' },
      ],
    },
  ],
  rows: [{ place, scenario: 'ZS-1', name: 'One', values: { Street: 'Mill Lane' } }],
};

describe('storing a workbook', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  it('stores nothing when the map has changed since the preview', async () => {
    await db.perform(lead, editMap, { edits: [{ kind: 'add', parent: null, code: 'ZZ', name: 'Taken meanwhile', at: 99 }] });
    await expect(db.perform(lead, storeImport, DOCUMENT)).rejects.toMatchObject({ code: 'conflict' });
    expect((await db.ask(lead, getMap, undefined)).nodes.some(({ code }) => code === 'ZZ-1')).toBe(false);
  });

  it('stores all of it: parents after their children, wiring, types and rows', async () => {
    const renamed = {
      ...DOCUMENT,
      nodes: DOCUMENT.nodes.map((item) => (item.code === 'ZZ' ? { ...item, name: 'Taken meanwhile' } : item)),
    };
    expect(await db.perform(lead, storeImport, renamed)).toEqual({ nodes: 1, tests: 2, scenarios: 1 });
    const scenario = await db.ask(lead, getScenario, 'ZS-1');
    expect(scenario.state).toBe('sketch');
    const { document, tests, teams } = scenario;
    const told = document.legs.map((leg) => {
      const drawn = tests[toTestKey(leg) ?? ''];
      return [leg.title ?? drawn?.name, teams.find(({ id }) => id === (leg.team ?? drawn?.team))?.name];
    });
    expect(told).toEqual([
      ['First', 'Billing'],
      ['Second', 'Stores'],
      ['Thank', 'Finance'],
    ]);
    expect(tests[toTestKey(document.legs[0] ?? { test: null, version: null }) ?? '']?.gives).toMatchObject([
      { name: 'Lamp no.', type: 'code', pattern: 'L-99' },
    ]);
    expect(document.rows).toMatchObject([{ name: 'One', values: { Street: 'Mill Lane' } }]);
    expect(document.columns.map(({ name }) => name)).toEqual(['Street']);
  });

  it('changes nothing when the same file comes again', async () => {
    const again = {
      ...DOCUMENT,
      nodes: DOCUMENT.nodes.map((item) => (item.code === 'ZZ' ? { ...item, name: 'Taken meanwhile' } : item)),
      fields: [],
      rows: [],
    };
    expect(await db.perform(lead, storeImport, again)).toEqual({ nodes: 0, tests: 0, scenarios: 0 });
    expect(checkImport(again, await db.ask(lead, loadSurroundings, undefined)).otherSteps).toEqual([]);
  });
});
