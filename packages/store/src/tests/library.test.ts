import { and, eq, sql } from 'drizzle-orm';
import { testFilterSchema } from '@kindred-baton/contracts/tests/library';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { listPersonas, removePersona, savePersona } from '../personas/personas.ts';
import { getChoices } from '../programmes/get-viewer.ts';
import { history } from '../schema/history.ts';
import { tests, testVersions } from '../schema/tests.ts';
import { turns } from '../schema/turns.ts';
import { changeTests } from './change-many-tests.ts';
import { agreeTest, discardDraft, saveTest } from './change-tests.ts';
import { getLibraryFindings } from './get-library-findings.ts';
import { getTestSurroundings } from './get-test-surroundings.ts';
import { getTest } from './get-test.ts';
import { hasWords, listTestCodes, listTests, toSearch } from './list-tests.ts';
import { takeNewerVersion } from '../turns/take-newer-version.ts';
import { waiveFinding } from './waive-finding.ts';

describe('the library', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const find = (filter: Record<string, unknown>) => db.ask(lead, listTests, testFilterSchema.parse(filter));
  const codes = async (filter: Record<string, unknown>) => (await find(filter)).tests.map(({ code }) => code);

  it('finds words anywhere in a test, as they stand or as beginnings, by an index', async () => {
    const all = await find({});
    expect(all.total).toBe(all.all);
    expect(await codes({ q: 'bil-01' })).toContain('BIL-01');
    expect((await find({ q: 'quot numb' })).total).toBeGreaterThan(0);
    expect((await find({ q: 'quot numb' })).total).toBeLessThan(all.total);
    expect((await find({ q: 'zebra' })).total).toBe(0);
    expect((await find({ q: "':* & | ! <->" })).total).toBe(all.total);
    await db.store.db.execute(sql`set enable_seqscan = off`);
    const plan = await db.store.db.execute<{ 'QUERY PLAN': string }>(
      sql`explain select code from tests where ${hasWords(toSearch('quote') ?? '')}`,
    );
    expect(JSON.stringify(plan.rows)).toContain('tests_search');
  });

  it('keeps its words in step with the newest version', async () => {
    const { version } = await db.ask(lead, getTest, { code: 'BIL-01' });
    await db.perform(lead, saveTest, {
      code: 'BIL-01',
      save: {
        base: version,
        name: 'Price',
        minutes: 5,
        needs: [],
        gives: [],
        rows: [],
        steps: [{ do: 'press', target: 'Zebra crossing' }],
      },
    });
    expect(await codes({ q: 'zebra' })).toEqual(['BIL-01']);
    await db.perform(lead, discardDraft, { code: 'BIL-01', number: version.number + 1, revision: 1 });
  });

  it('is narrowed by facets and by the strip, and counts them', async () => {
    const billing = await find({ team: 'Billing' });
    expect(billing.tests.every(({ team }) => team === 'Billing')).toBe(true);
    expect(billing.facets.team.length).toBeGreaterThan(2);
    const both = await find({ team: 'Billing|Finance' });
    const count = (name: string) => both.facets.team.find(({ key }) => key === name)?.count ?? 0;
    expect(both.total).toBe(count('Billing') + count('Finance'));
    const scoped = await find({ scope: 'NS', sort: 'minutes' });
    expect(scoped.tests.every(({ node }) => node.code.startsWith('NS'))).toBe(true);
    expect((await db.ask(lead, listTestCodes, testFilterSchema.parse({ scope: 'NS' }))).codes.sort()).toEqual(
      scoped.tests.map(({ code }) => code).sort(),
    );
    expect(await find({ scope: 'nowhere' })).toMatchObject({ total: 0 });
  });

  it('changes many at once, all or none', async () => {
    const change = { priority: 'low' as const, runBy: 'runner' as const, addTags: ['tariff', 'smoke'] };
    await db.perform(lead, changeTests, { codes: ['BIL-02', 'BIL-03'], change });
    expect(await codes({ tag: 'tariff', priority: 'low', runBy: 'runner' })).toEqual(['BIL-02', 'BIL-03']);
    await db.perform(lead, changeTests, { codes: ['BIL-03'], change: { removeTags: ['tariff'] } });
    expect(await codes({ tag: 'tariff' })).toEqual(['BIL-02']);
    await expect(db.perform(lead, changeTests, { codes: ['BIL-02', 'GONE-1'], change: { priority: 'high' } })).rejects.toThrow(
      'Not in the library: GONE-1',
    );
    expect(await codes({ tag: 'tariff', priority: 'high' })).toEqual([]);
  });

  it('retires tests and takes them back; what is agreed never changes otherwise', async () => {
    await db.perform(lead, changeTests, { codes: ['BIL-02'], change: { isRetired: true } });
    expect(await codes({ state: 'retired' })).toEqual(['BIL-02']);
    const { version } = await db.ask(lead, getTest, { code: 'BIL-02' });
    await expect(
      db.perform(lead, saveTest, { code: 'BIL-02', save: { ...version, base: version, name: 'X', minutes: 5 } }),
    ).rejects.toThrow('is retired');
    await db.perform(lead, changeTests, { codes: ['BIL-02'], change: { isRetired: false } });
    expect(await codes({ state: 'retired' })).toEqual([]);
  });

  it('lists what is worth a look, and leaves out what was waived with a note', async () => {
    const before = await db.ask(lead, getLibraryFindings, {});
    expect(before.examined).toBe((await find({})).total);
    const finding = before.findings.find(({ rule }) => rule === 'not read back') ?? before.findings[0];
    if (!finding) throw new Error('The demo has no findings.');
    const { rule, about, test } = finding;
    await db.perform(lead, waiveFinding, { code: test.code, waive: { rule, about, note: 'The next team reads it.' } });
    const after = await db.ask(lead, getLibraryFindings, { rule });
    expect(after.findings.find((each) => each.test.code === test.code && each.about === about)?.waived).toBe('The next team reads it.');
    const count = (list: typeof before) => list.rules.find((each) => each.rule === rule);
    expect(count(after)).toMatchObject({ count: (count(before)?.count ?? 0) - 1, waived: 1 });
    await db.perform(lead, waiveFinding, { code: test.code, waive: { rule, about, note: null } });
    expect((await db.ask(lead, getLibraryFindings, { rule })).rules).toEqual(before.rules);
    await expect(db.perform(lead, waiveFinding, { code: test.code, waive: { rule: 'x', about, note: 'y' } })).rejects.toThrow('no rule');
  });

  it('knows around a test what has been reached, what others need, and where which version is pinned', async () => {
    const around = await db.ask(lead, getTestSurroundings, { code: 'BIL-01' });
    expect(around.reached).toBeGreaterThan(0);
    expect(around.names.length).toBeGreaterThan(0);
    expect(around.targets.length).toBeGreaterThan(0);
    expect(around.pinned.some(({ cycle }) => cycle.code === 'ACC-2')).toBe(true);
  });

  it('lets turns that nobody has begun take a newer version over; what is done keeps its own', async () => {
    const { id, version } = await db.ask(lead, getTest, { code: 'BIL-01' });
    const steps = [...version.steps, { do: 'see' as const, target: 'Zone', value: '{Zone of the pipe}' }];
    const saved = await db.perform(lead, saveTest, {
      code: 'BIL-01',
      save: { ...version, base: version, name: 'Price', minutes: 15, steps },
    });
    await db.perform(lead, agreeTest, { code: 'BIL-01', ...saved });
    const pinned = async () =>
      (await db.ask(lead, getTestSurroundings, { code: 'BIL-01' })).pinned.filter(({ cycle }) => cycle.code === 'ACC-2');
    const [older] = await pinned();
    expect(older).toMatchObject({ version: version.number });
    if (!older || older.notBegun === 0) {
      await expect(db.perform(lead, takeNewerVersion, { code: 'BIL-01', cycle: 'ACC-2' })).rejects.toThrow('nobody has begun');
      return;
    }
    const { changed } = await db.perform(lead, takeNewerVersion, { code: 'BIL-01', cycle: 'ACC-2' });
    expect(changed).toBe(older.notBegun);
    expect(await pinned()).toEqual(
      [
        { ...older, turns: older.turns - changed, notBegun: 0 },
        { ...older, version: saved.number, turns: changed, notBegun: changed },
      ].filter((line) => line.turns > 0),
    );
    const [newest] = await db.store.db
      .select()
      .from(testVersions)
      .where(and(eq(testVersions.testId, id), eq(testVersions.number, saved.number)));
    const [turn] = await db.store.db
      .select()
      .from(turns)
      .where(eq(turns.versionId, newest?.id as never))
      .limit(1);
    expect(turn?.needs.some(({ name }) => name === 'Zone of the pipe')).toBe(true);
  });

  it('writes the saves of one sitting as one line of the history', async () => {
    const [test] = await db.store.db.select().from(tests).where(eq(tests.code, 'BIL-04'));
    const { version } = await db.ask(lead, getTest, { code: 'BIL-04' });
    let base = { number: version.number, revision: version.revision };
    for (let time = 0; time < 3; time += 1)
      base = await db.perform(lead, saveTest, {
        code: 'BIL-04',
        save: { ...version, base, name: `Name ${time}`, minutes: 5, steps: version.steps },
      });
    const lines = await db.store.db
      .select()
      .from(history)
      .where(eq(history.subjectId, test?.id as never));
    expect(lines.filter(({ action }) => action === 'saved')).toHaveLength(1);
  });

  it('keeps personas with how each starts an application in an environment', async () => {
    const { applications, environments } = await db.ask(lead, getChoices, undefined);
    const starts = [
      {
        applicationId: applications[0]?.id as never,
        environmentId: environments[0]?.id as never,
        how: 'Sign in as fp01.',
        userName: 'FP01',
        isUsual: false,
      },
    ];
    const seal = () => Buffer.from('sealed');
    const { id } = await db.perform(lead, savePersona, { id: null, save: { name: 'field inspector', description: '', starts }, seal });
    const get = async () => (await db.ask(lead, listPersonas, undefined)).personas.find((persona) => persona.id === id);
    expect(await get()).toMatchObject({ name: 'field inspector', starts: [{ ...starts[0], hasPassword: false }] });
    const save = (password?: string) =>
      db.perform(lead, savePersona, {
        id,
        save: {
          name: 'field inspector',
          description: '',
          starts: starts.map((start) => ({ ...start, ...(password === undefined ? {} : { password }) })),
        },
        seal,
      });
    const hasPassword = async () => (await get())?.starts[0]?.hasPassword;
    await save('door key');
    expect(await hasPassword()).toBe(true);
    await save();
    expect(await hasPassword()).toBe(true);
    expect(JSON.stringify(await get())).not.toContain('sealed');
    await save('');
    expect(await hasPassword()).toBe(false);
    await expect(
      db.perform(lead, savePersona, { id: null, save: { name: 'field inspector', description: '', starts: [] }, seal }),
    ).rejects.toMatchObject({ code: 'conflict' });
    const foreign = [{ ...starts[0], environmentId: '00000000-0000-4000-8000-000000000000' as never }] as typeof starts;
    await expect(db.perform(lead, savePersona, { id, save: { name: 'x', description: '', starts: foreign }, seal })).rejects.toThrow(
      'no such application',
    );
    await db.perform(lead, removePersona, { id });
    expect(await get()).toBeUndefined();
  });
});
