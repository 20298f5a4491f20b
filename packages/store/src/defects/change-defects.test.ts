import { and, eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { turns } from '../schema/turns.ts';
import { moveDefect } from './change-defects.ts';
import { getDefect, listDefects } from './get-defects.ts';

describe('moving a defect', () => {
  let db: TestStore;
  let lead: Actor;
  let code: string;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
    const { defects: all } = await db.ask(lead, listDefects, undefined);
    code = all.find(({ title }) => title === 'Quote is priced in the wrong band')?.code ?? '';
  });
  afterAll(() => db.drop());

  const move = (from: string, to: string, reason = '') => db.perform(lead, moveDefect, { code, move: { from, to, reason } as never });
  const dueTurns = async () =>
    (
      await db.store.db
        .select({ id: turns.id })
        .from(turns)
        .innerJoin(defectTurns, eq(defectTurns.turnId, turns.id))
        .innerJoin(defects, eq(defects.id, defectTurns.defectId))
        .where(and(eq(defects.code, code), eq(turns.isRetestDue, true), eq(turns.state, 'ready')))
    ).length;

  it('weighs it by the turns behind all the turns that it keeps failed, each once', async () => {
    const defect = await db.ask(lead, getDefect, code);
    expect(defect.turns).toHaveLength(7);
    expect(defect.waiting).toMatchObject({ runs: 7, turns: expect.any(Number) });
    expect((await db.ask(lead, listDefects, undefined)).defects.find((item) => item.code === code)?.waiting).toBe(defect.waiting.turns);
  });

  it('gives every turn that it held back as a retest when it is fixed, and takes them back when it is not', async () => {
    await move('accepted', 'fixed');
    expect(await dueTurns()).toBe(7);
    await move('fixed', 'accepted');
    expect(await dueTurns()).toBe(0);
  });

  it('does not jump, does not overwrite what somebody else did, and is declined only with a reason', async () => {
    await expect(move('new', 'fixed')).rejects.toThrow(`${code} is accepted by now, not new.`);
    await expect(move('accepted', 'closed')).rejects.toThrow('cannot become closed');
    await expect(move('accepted', 'declined', 'As designed.')).resolves.toEqual({ done: true });
    expect(await db.ask(lead, getDefect, code)).toMatchObject({ status: 'declined', reason: 'As designed.' });
  });

  it('has its history, in order, with who', async () => {
    const { history } = await db.ask(lead, getDefect, code);
    expect(history.map(({ action }) => action)).toEqual(['logged', 'accepted', 'fixed', 'accepted', 'declined']);
    expect(history.at(-1)?.by).toBe('Lea Marsh');
  });

  it('does not give a turn back while another open defect holds it', async () => {
    const [first, second] = await db.store.db.select().from(defects).where(eq(defects.status, 'accepted')).limit(2);
    const [link] = await db.store.db
      .select()
      .from(defectTurns)
      .where(eq(defectTurns.defectId, first?.id as never))
      .limit(1);
    await db.store.db
      .insert(defectTurns)
      .values({ programmeId: lead.programmeId, defectId: second?.id as never, turnId: link?.turnId as never });
    await db.perform(lead, moveDefect, { code: first?.code ?? '', move: { from: 'accepted', to: 'fixed', reason: '' } });
    const [held] = await db.store.db
      .select()
      .from(turns)
      .where(eq(turns.id, link?.turnId as never));
    expect([held?.isRetestDue, held?.state]).toEqual([false, 'done']);
  });
});
