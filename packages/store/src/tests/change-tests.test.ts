import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { attempts } from '../schema/turns.ts';
import { translateDriverError } from '../driver-errors.ts';
import { agreeTests } from './change-many-tests.ts';
import { agreeTest, createTest, saveTest } from './change-tests.ts';
import { getTest } from './get-test.ts';

const STEPS = [
  { do: 'fill' as const, target: ' Survey  number ', value: '{Survey no.}' },
  { do: 'keep' as const, target: 'Quote number', keepAs: 'Quote no.' },
];

describe('editing a test', () => {
  let db: TestStore;
  let author: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    author = await db.actorOf('Edda Quill');
  });
  afterAll(() => db.drop());

  const save = (code: string, base: { number: number; revision: number }, steps = STEPS) =>
    db.perform(author, saveTest, { code, save: { base, name: 'Named', minutes: 12, steps, needs: [], gives: [], rows: [] } });

  it('begins with an empty draft at its activity, and derives needs and gives from its steps', async () => {
    await db.perform(author, createTest, { code: 'NEW-1', name: 'New', node: 'NS-2.1', teamId: null, applicationId: null });
    expect(await save('NEW-1', { number: 1, revision: 1 })).toEqual({ number: 1, revision: 2 });
    const { version, team } = await db.ask(author, getTest, { code: 'NEW-1' });
    expect(version.steps[0]).toEqual({ do: 'fill', target: 'Survey number', value: '{Survey no.}' });
    expect([version.needs.map(({ name }) => name), version.gives.map(({ name }) => name)]).toEqual([['Survey no.'], ['Quote no.']]);
    expect(team?.name).toBe('Billing');
  });

  it('shows the second of two editors what the first saved; neither is lost', async () => {
    const ravi = await db.actorOf('Ravi Thorne');
    const base = { number: 1, revision: 2 };
    await save('NEW-1', base);
    const second = db.perform(ravi, saveTest, {
      code: 'NEW-1',
      save: { base, name: 'Other', minutes: 5, steps: [], needs: [], gives: [], rows: [] },
    });
    await expect(second).rejects.toMatchObject({ code: 'conflict', details: { by: 'Edda Quill', theirs: { number: 1, revision: 3 } } });
    expect((await db.ask(author, getTest, { code: 'NEW-1' })).version.steps).toHaveLength(2);
  });

  it('freezes a version by agreeing it; the next save begins a new draft', async () => {
    await db.perform(author, agreeTest, { code: 'NEW-1', number: 1, revision: 3 });
    expect(await save('NEW-1', { number: 1, revision: 3 })).toEqual({ number: 2, revision: 1 });
    const { versions } = await db.ask(author, getTest, { code: 'NEW-1' });
    expect(versions).toEqual([
      { number: 2, state: 'draft' },
      { number: 1, state: 'agreed' },
    ]);
  });

  it('does not agree a test without steps', async () => {
    await db.perform(author, createTest, { code: 'NEW-2', name: 'Empty', node: 'NS-2.1', teamId: null, applicationId: null });
    await expect(db.perform(author, agreeTest, { code: 'NEW-2', number: 1, revision: 1 })).rejects.toThrow('no steps yet');
  });

  it('without a code gets the next free one after those beside it', async () => {
    const make = (node: string) => db.perform(author, createTest, { code: '', name: 'New', node, teamId: null, applicationId: null });
    const { path } = await db.ask(author, getTest, { code: 'BIL-01' });
    const first = (await make(path.at(-1)?.code ?? '')).code;
    const second = (await make(path.at(-1)?.code ?? '')).code;
    expect(first).toMatch(/^[A-Z]+-\d+$/);
    expect(Number(/\d+$/.exec(second)?.[0])).toBe(Number(/\d+$/.exec(first)?.[0]) + 1);
  });

  it('agrees many at once, and tells what it left', async () => {
    const lead = await db.actorOf('Lea Marsh');
    const NEW = { name: 'New', node: 'NS-2.1', teamId: null, applicationId: null };
    const [ready, empty] = [
      await db.perform(author, createTest, { ...NEW, code: 'M-1' }),
      await db.perform(author, createTest, { ...NEW, code: 'M-2' }),
    ];
    const save = {
      base: { number: 1, revision: 1 },
      name: 'New',
      minutes: 5,
      steps: [{ do: 'press' as const, target: 'Save' }],
      needs: [],
      gives: [],
      rows: [],
    };
    await db.perform(author, saveTest, { code: ready.code, save });
    const agreed = await db.perform(lead, agreeTests, { codes: [ready.code, empty.code, 'BIL-02'] });
    expect(agreed).toEqual({ agreed: 1, withoutDraft: 1, withoutSteps: ['M-2'] });
    expect((await db.ask(author, getTest, { code: ready.code })).version).toMatchObject({ state: 'agreed', number: 1 });
    expect((await db.ask(author, getTest, { code: empty.code })).version.state).toBe('draft');
    await expect(db.perform(author, agreeTests, { codes: ['NOPE'] })).rejects.toThrow('NOPE');
  });

  it('says when a code is taken', async () => {
    await expect(
      db.perform(author, createTest, { code: 'NEW-2', name: 'Twice', node: 'NS-2.1', teamId: null, applicationId: null }),
    ).rejects.toThrow('already in the library');
  });

  it('never changes an agreed version, nor a finished attempt, even past the operations', async () => {
    const [version] = await db.store.db
      .select({ id: testVersions.id })
      .from(testVersions)
      .innerJoin(tests, eq(tests.id, testVersions.testId))
      .where(eq(tests.code, 'BIL-01'));
    const [attempt] = await db.store.db.select({ id: attempts.id }).from(attempts).limit(1);
    const wrong = [
      db.store.db
        .update(testVersions)
        .set({ steps: [] })
        .where(eq(testVersions.id, version?.id as never)),
      db.store.db.delete(testVersions).where(eq(testVersions.id, version?.id as never)),
      db.store.db
        .update(attempts)
        .set({ outcome: 'passed' })
        .where(eq(attempts.id, attempt?.id as never)),
      db.store.db.delete(attempts).where(eq(attempts.id, attempt?.id as never)),
    ];
    const answers = await Promise.allSettled(wrong);
    expect(
      answers.map((answer) => (answer.status === 'rejected' ? (translateDriverError(answer.reason) as { code?: string }).code : 'done')),
    ).toEqual(Array(4).fill('conflict'));
  });
});
