import { randomUUID } from 'node:crypto';
import { and, eq, sql } from 'drizzle-orm';
import type { DefectQuery } from '@kindred-baton/contracts/defects/defect';
import { TURNS_OF_DEFECT } from '@kindred-baton/contracts/defects/defect';
import { TURNS_A_PAGE } from '@kindred-baton/contracts/turns/turn';
import { listTurns } from '../turns/list-turns.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ofCycle } from '../../../../tests/support/of-cycle.ts';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { turns } from '../schema/turns.ts';
import { getAcceptance } from '../cycles/acceptance.ts';
import { checkRuns } from '../runs/check-runs.ts';
import { mails } from '../schema/mails.ts';
import { logDefectApart, moveDefect } from './change-defects.ts';
import { getDefect, listDefectPage, listDefects } from './get-defects.ts';

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

  it('is listed in pages with the most turns waiting first, and on a board that counts all and shows the first; a turn behind two counts once', async () => {
    const ask = (query: Partial<DefectQuery>) => db.ask(lead, listDefectPage, { view: 'list', page: 1, ...query });
    const { defects: all } = await db.ask(lead, listDefects, undefined);
    const isIn = (scope: string, node: string | null) => node === null || node === scope || node.startsWith(`${scope}-`);
    for (const query of [
      {},
      { scope: 'NS' },
      { show: 'all' },
      { team: 'Finance' },
      { scope: 'LR', show: 'all' },
    ] as Partial<DefectQuery>[]) {
      const here = all.filter(({ node }) => query.scope === undefined || isIn(query.scope, node));
      const left = here.filter(
        ({ status, team }) =>
          (query.show === 'all' || !['closed', 'declined', 'duplicate'].includes(status)) &&
          (query.team === undefined || team === query.team),
      );
      const page = await ask(query);
      expect(page.rows.size).toBe(left.length);
      expect(page.defects.map(({ code: own }) => own).sort()).toEqual(
        left
          .slice(0, 100)
          .map(({ code: own }) => own)
          .sort(),
      );
      expect(page.defects.map(({ waiting }) => waiting)).toEqual([...page.defects.map(({ waiting }) => waiting)].sort((a, b) => b - a));
      const board = await ask({ ...query, view: 'board' });
      expect(board.columns.reduce((sum, { total }) => sum + total, 0) + board.more.defects).toBe(left.length);
      for (const { key, total, defects: shown } of board.columns) {
        const list = await ask({ ...query, column: key });
        expect([list.rows.size, list.defects.slice(0, shown.length)]).toEqual([total, shown]);
      }
      const open = here.filter(({ status }) => ['new', 'accepted', 'reopened', 'fixed'].includes(status));
      expect(page.open).toBe(open.length);
      const behind = new Set<string>();
      for (const { code: own } of open) {
        const { id, cycle } = await db.ask(lead, getDefect, own);
        const { turns: waiting } = await db.ask(lead, listTurns, { ...ofCycle(cycle.code), hold: `defect:${id}` });
        for (const turn of waiting) behind.add(turn.id);
      }
      expect(page.waiting).toBe(behind.size);
    }
    expect((await ask({ page: 99 })).rows.page).toBe(1);
  });

  it('was seen at thousands of turns: shows the first, counts all, and opens a list whose pages have each once', async () => {
    const other = await createTestStore('demo');
    await other.store.db.execute(sql`insert into defect_turns (programme_id, defect_id, turn_id)
      select defects.programme_id, defects.id, turns.id from defects join turns on turns.cycle_id = defects.cycle_id where defects.code = ${code}
      on conflict do nothing`);
    const { rows: counted } = await other.store.db.execute<{ id: string }>(
      sql`select turn_id as id from defect_turns join defects on defects.id = defect_id where code = ${code}`,
    );
    const detail = await other.ask(lead, getDefect, code);
    expect([detail.turns.length, detail.seenAtTurns]).toEqual([TURNS_OF_DEFECT, counted.length]);
    const listed: string[] = [];
    for (let page = 1; page <= Math.ceil(counted.length / TURNS_A_PAGE); page += 1) {
      const { rows, turns: shown } = await other.ask(lead, listTurns, { ...ofCycle(detail.cycle.code), defect: code, page });
      expect(rows).toEqual({ page, from: listed.length, size: counted.length });
      listed.push(...shown.map(({ id }) => id));
    }
    expect(listed.sort()).toEqual(counted.map(({ id }) => id).sort());
    await other.drop();
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

describe('a defect that was seen at no turn', () => {
  let db: TestStore;
  beforeAll(async () => {
    db = await createTestStore('demo');
  });
  afterAll(() => db.drop());

  it('counts for the owners of where it was seen, holds nothing, and is judged by whoever found it', async () => {
    const [lead, wanda, ines] = await Promise.all(['Lea Marsh', 'Wanda Rusk', 'Ines Varga'].map((name) => db.actorOf(name)));
    const openOf = async (node: string) =>
      (await db.ask(lead!, getAcceptance, 'ACC-2')).nodes.find(({ code }) => code === node)?.openDefects.length ?? -1;
    const [before, elsewhere] = [await openOf('NS'), await openOf('LR')];
    const input = {
      ...({ id: randomUUID() as never, title: 'The letterhead is last year’s', kind: 'text', severity: 'cosmetic' } as const),
      ...({ priority: 'low', expected: '', seen: 'The old crest', node: 'NS-2' } as const),
    };
    await expect(db.perform(wanda!, logDefectApart, { ...input, cycle: 'INT-1' })).rejects.toThrow('Cycle INT-1 is closed. Choose one');
    await expect(db.perform(wanda!, logDefectApart, { ...input, cycle: 'ACC-2', node: 'XX' })).rejects.toThrow('no node XX');
    const { code } = await db.perform(wanda!, logDefectApart, { ...input, cycle: 'ACC-2' });
    expect(await db.perform(wanda!, logDefectApart, { ...input, cycle: 'ACC-2' })).toEqual({ code });
    expect([await openOf('NS'), await openOf('LR')]).toEqual([before + 1, elsewhere]);
    const detail = await db.ask(wanda!, getDefect, code);
    expect(detail).toMatchObject({ status: 'new', turns: [], steps: [], seenAt: { code: 'NS-2' }, foundById: wanda!.personId });
    expect(detail.waiting.turns).toBe(0);
    expect((await db.ask(lead!, listDefects, undefined)).defects.find((one) => one.code === code)?.node).toBe('NS-2');

    const move = (who: Actor, from: string, to: string) => db.perform(who, moveDefect, { code, move: { from, to, reason: '' } as never });
    await expect(move(wanda!, 'new', 'accepted')).rejects.toThrow('does not allow you');
    await db.store.db.delete(mails);
    await move(lead!, 'new', 'fixed');
    const letters = (await db.store.db.select().from(mails)).map(({ to, subject }) => [to, subject]);
    expect(letters).toEqual([['wanda.rusk@brindlemere.example', `${code} is fixed: please look whether it is gone`]]);
    await expect(move(ines!, 'fixed', 'closed')).rejects.toThrow('does not allow you');
    await move(wanda!, 'fixed', 'closed');
    expect([await openOf('NS'), (await db.ask(lead!, getDefect, code)).status]).toEqual([before, 'closed']);
    expect(await checkRuns(db.store.db)).toEqual([]);
  });
});
