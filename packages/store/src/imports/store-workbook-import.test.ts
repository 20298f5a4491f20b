import type { WorkbookComparison } from '@kindred-baton/core/imports/compare-workbook';
import type { WorkbookEntries } from '@kindred-baton/core/imports/workbook-entries';
import { toWorkbookEntries } from '@kindred-baton/core/imports/workbook-entries';
import type { WorkbookSheets } from '@kindred-baton/core/imports/workbook-sheets';
import { toTestKey } from '@kindred-baton/core/scenarios/draw-legs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { editMap } from '../map/edit-map.ts';
import { getMap } from '../map/get-map.ts';
import { getScenario } from '../scenarios/get-scenario.ts';
import { history } from '../schema/history.ts';
import { getTest } from '../tests/get-test.ts';
import { compareWorkbookImport, storeWorkbookImport } from './store-workbook-import.ts';

const place = { sheet: 'Processes', row: 2 };
const node = (code: string, parent: string | null) => ({
  ...{ place, code, name: code, parent, team: 'Billing', application: null, isCritical: true, description: null },
});
const step = (value: string, keepAs?: string) => ({ place, step: { do: 'fill' as const, target: 'T', value, keepAs } });
const SHEETS: WorkbookSheets = {
  nodes: [node('ZZ-1', 'ZZ'), node('ZZ', null)],
  tests: [
    {
      ...{ place, code: 'ZT-1', name: 'First', activity: 'ZZ-1', team: null, application: null, minutes: 9 },
      steps: [step('{Street}', 'Lamp no.')],
    },
    { place, code: 'ZT-2', name: 'Second', activity: 'ZZ-1', team: 'Stores', application: null, minutes: 9, steps: [step('{Lamp no.}')] },
  ],
  fields: [{ place, test: 'ZT-1', field: { name: 'Lamp no.', type: 'code', pattern: 'L-99' } }],
  scenarios: [
    {
      ...{ place, code: 'ZS-1', name: 'Lamp', process: 'ZZ' },
      legs: [
        { place, test: 'ZT-1', title: '', team: null },
        { place, test: 'ZT-2', title: '', team: null },
        { place, test: null, title: 'Thank', team: 'Finance' },
      ],
    },
    { place, code: 'ZS-2', name: 'Whole', process: 'ZZ-1', legs: [{ place, test: 'ZT-1', title: '', team: null }] },
  ],
  rows: [{ place, scenario: 'ZS-1', name: 'One', values: { Street: 'Mill Lane' } }],
};
const ENTRIES = toWorkbookEntries(SHEETS);

describe('storing a workbook', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const compare = (entries: WorkbookEntries = ENTRIES) => db.ask(lead, compareWorkbookImport, entries);
  const store = (entries: WorkbookEntries, seen: (comparison: WorkbookComparison) => boolean = () => true, agreesNew = true) =>
    db.perform(lead, storeWorkbookImport, { entries, agreesNew, seen });
  const kinds = ({ map, tests, scenarios }: WorkbookComparison) =>
    [map.differences.filter(({ kind }) => kind !== 'missing'), tests.differences, scenarios].map((list) => list.map(({ kind }) => kind));

  it('stores nothing when it is not what was seen any more, and nothing of what is to mend', async () => {
    const before = await compare();
    await db.perform(lead, editMap, { edits: [{ kind: 'add', parent: null, code: 'ZZ', name: 'Taken meanwhile', at: 99 }] });
    const isSeen = (now: WorkbookComparison) => JSON.stringify(now.map.differences) === JSON.stringify(before.map.differences);
    await expect(store(ENTRIES, isSeen)).rejects.toMatchObject({ code: 'conflict' });
    const wrong = toWorkbookEntries({ ...SHEETS, tests: SHEETS.tests.map((test) => ({ ...test, activity: 'NOWHERE' })) });
    await expect(store(wrong)).rejects.toMatchObject({ code: 'invalid' });
    expect((await db.ask(lead, getMap, undefined)).nodes.some(({ code }) => code === 'ZZ-1')).toBe(false);
  });

  it('stores all of it: parents after their children, wiring, types and rows; each part with its own history', async () => {
    const comparison = await compare();
    expect(kinds(comparison)).toEqual([
      ['changed', 'new'],
      ['new', 'new'],
      ['new', 'new'],
    ]);
    await store(ENTRIES);
    const scenario = await db.ask(lead, getScenario, 'ZS-1');
    expect([scenario.state, (await db.ask(lead, getScenario, 'ZS-2')).state]).toEqual(['sketch', 'agreed']);
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
    const actions = (await db.store.db.select().from(history)).map(({ subject, action }) => `${subject} ${action}`);
    for (const line of ['programme workbook imported', 'test added', 'test agreed', 'scenario added', 'node added'])
      expect(actions).toContain(line);
  });

  it('changes nothing when the same file comes again', async () => {
    const again = await compare();
    expect(kinds(again)).toEqual([
      ['same', 'same'],
      ['same', 'same'],
      ['same', 'same'],
    ]);
    const count = async () => (await db.store.db.select().from(history)).filter(({ subject }) => subject !== 'programme').length;
    const before = await count();
    await store(ENTRIES);
    expect(await count()).toBe(before);
  });

  it('changes what is there as it was shown: a draft beside the agreed version, moved heads, changed legs', async () => {
    const [first, second] = SHEETS.tests;
    if (!first || !second) throw new Error('The sheets have two tests.');
    const changed = toWorkbookEntries({
      ...SHEETS,
      nodes: [...SHEETS.nodes, { ...node('ZZ-2', 'ZZ'), team: null }],
      tests: [
        { ...first, steps: [...first.steps, step('{Lamp no.}')], team: null },
        { ...second, name: 'Second, renamed', activity: 'ZZ-2' },
      ],
      scenarios: SHEETS.scenarios.map((scenario) =>
        scenario.code === 'ZS-2' ? { ...scenario, process: 'ZZ-2', legs: SHEETS.scenarios[0]?.legs.slice(1) ?? [] } : scenario,
      ),
    });
    const comparison = await compare(changed);
    expect(kinds(comparison)).toEqual([
      ['same', 'same', 'new'],
      ['changed', 'changed'],
      ['same', 'changed'],
    ]);
    await store(changed, undefined, false);
    const versions = (await db.ask(lead, getTest, { code: 'ZT-1' })).versions.map(({ number, state }) => [number, state]);
    expect(versions.sort()).toEqual([
      [1, 'agreed'],
      [2, 'draft'],
    ]);
    expect(await db.ask(lead, getTest, { code: 'ZT-2' })).toMatchObject({ name: 'Second, renamed' });
    const scenario = await db.ask(lead, getScenario, 'ZS-2');
    expect(scenario.state).toBe('sketch');
    expect(scenario.document.legs.map(({ test, title }) => test ?? title)).toEqual(['ZT-2', 'Thank']);
    expect(kinds(await compare(changed)).flat()).not.toContain('changed');
  });

  it('brings what is new as drafts and sketches where nobody agrees it', async () => {
    const entries = toWorkbookEntries({
      ...{ nodes: [], fields: [], rows: [] },
      tests: [{ place, code: 'ZT-3', name: 'Third', activity: 'ZZ', team: null, application: null, minutes: null, steps: [step('one')] }],
      scenarios: [{ place, code: 'ZS-3', name: 'Third', process: 'ZZ', legs: [{ place, test: 'ZT-3', title: '', team: null }] }],
    });
    await store(entries, undefined, false);
    expect((await db.ask(lead, getTest, { code: 'ZT-3' })).versions).toMatchObject([{ number: 1, state: 'draft' }]);
    expect((await db.ask(lead, getScenario, 'ZS-3')).state).toBe('sketch');
  });
});
