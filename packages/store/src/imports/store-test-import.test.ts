import type { TestComparison } from '@kindred-baton/core/imports/compare-tests';
import type { TestEntry } from '@kindred-baton/core/imports/test-table';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { changeTests } from '../tests/change-many-tests.ts';
import { getTest } from '../tests/get-test.ts';
import { compareTestImport, storeTestImport } from './store-test-import.ts';

const entry = (name: string, more: Partial<TestEntry> = {}): TestEntry => ({
  ...{ place: { sheet: 'Tests', row: 2 }, code: null, name, rows: [], sentences: 1, byHand: 0 },
  steps: [
    { do: 'fill', target: 'Survey number', value: '{Survey no.}' },
    { do: 'keep', target: 'Quote number', keepAs: 'Quote no.' },
  ],
  ...more,
});

describe('importing tests', () => {
  let db: TestStore;
  let author: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    author = await db.actorOf('Edda Quill');
  });
  afterAll(() => db.drop());

  const compare = (entries: readonly TestEntry[]) => db.ask(author, compareTestImport, { entries, activity: 'NS-2.1' });
  const store = (entries: readonly TestEntry[], seen: (comparison: TestComparison) => boolean = () => true) =>
    db.perform(author, storeTestImport, { entries, activity: 'NS-2.1', seen });

  it('stores new tests as drafts with their needs and gives, and the same list again changes nothing', async () => {
    const entries = [
      entry('Price by list'),
      entry('Pay by list', { code: 'PAY-77', tags: ['list'], rows: [{ name: 'House', as: 'clerk', values: { 'Survey no.': 'SV-1' } }] }),
    ];
    expect(await store(entries)).toEqual({ changed: 2 });
    const { version, team, tags } = await db.ask(author, getTest, { code: 'PAY-77' });
    expect(version).toMatchObject({ number: 1, state: 'draft', rows: [{ name: 'House', as: 'clerk' }] });
    expect([version.needs[0]?.name, version.gives[0]?.name, team?.name, tags]).toEqual(['Survey no.', 'Quote no.', 'Billing', ['list']]);
    expect((await compare(entries)).differences.map(({ kind }) => kind)).toEqual(['same', 'same']);
    expect(await store(entries)).toEqual({ changed: 0 });
  });

  it('begins a new draft of an agreed test whose steps differ, and replaces one that is there', async () => {
    const { version } = await db.ask(author, getTest, { code: 'BIL-05' });
    const change = (target: string) => [entry('Changed', { code: 'BIL-05', steps: [...version.steps, { do: 'press', target }] })];
    await store(change('One'));
    await store(change('Two'));
    const { version: draft, versions } = await db.ask(author, getTest, { code: 'BIL-05' });
    expect([draft.number, draft.state, draft.revision]).toEqual([version.number + 1, 'draft', 2]);
    expect(draft.steps.at(-1)?.target).toBe('Two');
    expect(versions).toHaveLength(2);
  });

  it('knows a retired test too, and begins a new draft of it', async () => {
    await db.perform(author, changeTests, { codes: ['BIL-06'], change: { isRetired: true } });
    const again = [entry('Said anew', { code: 'BIL-06' })];
    expect((await compare(again)).differences.map(({ kind }) => kind)).toEqual(['changed']);
    await store(again);
    expect((await db.ask(author, getTest, { code: 'BIL-06' })).versions.map(({ state }) => state)).toEqual(['draft', 'retired']);
  });

  it('stores nothing when something is wrong, or the library is another than what was seen', async () => {
    await expect(store([entry('A', { code: 'NEW-1' }), entry('B', { code: 'NEW-2', activity: 'nowhere' })])).rejects.toThrow(
      'nothing was stored',
    );
    await expect(store([entry('A', { code: 'NEW-1' })], () => false)).rejects.toMatchObject({ code: 'conflict' });
    await expect(db.ask(author, getTest, { code: 'NEW-1' })).rejects.toThrow('no test NEW-1');
  });
});
