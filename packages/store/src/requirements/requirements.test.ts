import type { RequirementComparison } from '@kindred-baton/core/imports/compare-requirements';
import type { RequirementEntry } from '@kindred-baton/core/imports/requirement-table';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { compareRequirementImport, storeRequirementImport } from '../imports/store-requirement-import.ts';
import { linkTest, removeRequirement, saveRequirement } from './change-requirements.ts';
import { getTraceability, listRequirements } from './list-requirements.ts';

const SAVE = {
  code: 'RQ-901',
  title: 'It holds',
  description: '',
  kind: 'business' as const,
  priority: 'high' as const,
  nodes: ['NS-2.1'],
  tests: ['BIL-01'],
};

describe('requirements', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const find = async (code: string) => (await db.ask(lead, listRequirements, undefined)).requirements.find((each) => each.code === code);

  it('are added with their links, changed, and removed', async () => {
    await db.perform(lead, saveRequirement, { code: null, save: SAVE });
    expect(await find('RQ-901')).toMatchObject({ title: 'It holds', nodes: [{ code: 'NS-2.1' }], tests: [{ code: 'BIL-01' }] });
    await db.perform(lead, saveRequirement, { code: 'RQ-901', save: { ...SAVE, code: 'RQ-902', nodes: [], tests: ['BIL-02', 'BIL-02'] } });
    expect(await find('RQ-901')).toBeUndefined();
    expect(await find('RQ-902')).toMatchObject({ nodes: [], tests: [{ code: 'BIL-02' }] });
    await db.perform(lead, removeRequirement, { code: 'RQ-902' });
    expect(await find('RQ-902')).toBeUndefined();
  });

  it('refuse links to what is not there, and a code that is taken; nothing is half stored', async () => {
    await expect(db.perform(lead, saveRequirement, { code: null, save: { ...SAVE, tests: ['GONE'] } })).rejects.toThrow('no test GONE');
    expect(await find('RQ-901')).toBeUndefined();
    await db.perform(lead, saveRequirement, { code: null, save: SAVE });
    await expect(db.perform(lead, saveRequirement, { code: null, save: SAVE })).rejects.toMatchObject({ code: 'conflict' });
    await db.perform(lead, removeRequirement, { code: 'RQ-901' });
  });

  it('are traced both ways, with their state from the newest turns', async () => {
    const first = (await db.ask(lead, listRequirements, undefined)).requirements.find(({ tests }) => tests.length > 0);
    const test = first?.tests[0]?.code ?? '';
    const trace = async () => (await db.ask(lead, getTraceability, undefined)).tests.find(({ code }) => code === test)?.requirements ?? [];
    expect(await trace()).toContain(first?.code);
    await db.perform(lead, linkTest, { requirement: first?.code ?? '', test, isLinked: false });
    expect(await trace()).not.toContain(first?.code);
    await db.perform(lead, linkTest, { requirement: first?.code ?? '', test, isLinked: true });
    expect(await trace()).toContain(first?.code);
  });

  it('come in from a list, all or nothing, and the same list again changes nothing', async () => {
    const entries: RequirementEntry[] = [
      { place: { sheet: 'L', row: 2 }, code: 'RQ-910', title: 'New', tests: ['BIL-01'] },
      { place: { sheet: 'L', row: 3 }, code: 'RQ-001', title: 'Said anew' },
    ];
    const store = (list: readonly RequirementEntry[], seen: (comparison: RequirementComparison) => boolean = () => true) =>
      db.perform(lead, storeRequirementImport, { entries: list, seen });
    await expect(store(entries, () => false)).rejects.toMatchObject({ code: 'conflict' });
    await expect(store([...entries, { place: { sheet: 'L' }, code: 'RQ-911', title: 'X', nodes: ['GONE'] }])).rejects.toThrow(
      'nothing was stored',
    );
    expect(await find('RQ-910')).toBeUndefined();
    expect(await store(entries)).toEqual({ changed: 2 });
    expect(await find('RQ-910')).toMatchObject({ title: 'New', kind: 'functional', tests: [{ code: 'BIL-01' }] });
    expect((await db.ask(lead, compareRequirementImport, entries)).differences.map(({ kind }) => kind)).toEqual(['same', 'same']);
  });
});
