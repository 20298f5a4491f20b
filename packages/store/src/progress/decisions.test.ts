import type { KeepDecision } from '@kindred-baton/contracts/progress/outlook';
import { LEFT_OPEN_SHOWN } from '@kindred-baton/contracts/progress/outlook';
import type { DecisionId } from '@kindred-baton/core/ids';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getAcceptance } from '../cycles/acceptance.ts';
import { createId } from '../ids.ts';
import { getOutlook, keepDecision, takeBackDecision } from './decisions.ts';

const CYCLE = 'ACC-2';
const before = { even: '2026-12-14', late: null, inTime: 0.31 };

describe('what the end of a cycle is decided on', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const look = (cycle = CYCLE) => db.ask(lead, getOutlook, { cycle });
  const toDecision = (more: Partial<KeepDecision> = {}): KeepDecision => ({
    ...{ id: createId<'decision'>(), cycle: CYCLE, kind: 'leave out', words: 'Runs of low priority left out', why: 'The date is fixed.' },
    ...{ before, after: { ...before, inTime: 0.62 }, ...more },
  });

  it('is what acceptance says, and what SQL written by hand says that leaving out leaves open', async () => {
    await db.store.db.execute(
      sql`update runs set outcome = 'not run' from cycles c where c.id = cycle_id and c.code = ${CYCLE} and priority = 'low'`,
    );
    const { criteria, left, unmet } = await look();
    expect(criteria).toEqual((await db.ask(lead, getAcceptance, CYCLE)).criteria);
    const one = async (query: ReturnType<typeof sql>) =>
      (await db.store.db.execute<{ n: number }>(sql`select count(*)::int as n from (${query}) as own`)).rows[0]?.n;
    const own = sql`select t.*, (r.priority = 'low' and r.outcome = 'not run') as is_spared from turns t
      join runs r on r.id = t.run_id join cycles c on c.id = t.cycle_id where c.code = ${CYCLE} and (r.left_to is null or r.left_to::text not in ('a later cycle', 'out of scope'))`;
    const { rows } = await db.store.db.execute<{ code: string }>(sql`
      with own as (${own}) select q.code from requirements q where
        exists (select from requirement_tests l where l.requirement_id = q.id
          and exists (select from own where own.test_id = l.test_id) and not exists (select from own where own.test_id = l.test_id and not is_spared))
          and exists (select from requirement_tests l left join own on own.test_id = l.test_id
            where l.requirement_id = q.id and own.status is distinct from 'passed') order by q.code`);
    expect(left.requirements.first.map(({ code }) => code)).toEqual(rows.slice(0, LEFT_OPEN_SHOWN).map(({ code }) => code));
    expect(left.requirements.total).toBe(rows.length);
    expect(left.turns).toBe(await one(sql`select * from (${own}) as o where is_spared`));
    expect([left.turns > 0, left.nodes.total > 0, unmet.requirements > 0]).toEqual([true, true, true]);
  });

  it('is written down with its figures, once, and stays when it is taken back', async () => {
    const decision = toDecision();
    await db.perform(lead, keepDecision, decision);
    await db.perform(lead, keepDecision, decision);
    await db.perform(lead, keepDecision, toDecision({ kind: 'stay', words: 'Nothing is changed', after: before }));
    const { decisions, left } = await look();
    expect(decisions.map(({ kind }) => kind).sort()).toEqual(['leave out', 'stay']);
    const own = decisions.find(({ id }) => id === decision.id)!;
    expect(own).toMatchObject({ by: 'Lea Marsh', before, after: { inTime: 0.62 }, left, takenBack: null });
    expect(decisions.find(({ kind }) => kind === 'stay')?.left).toBeNull();
    await db.perform(lead, takeBackDecision, decision.id);
    expect((await look()).decisions.find(({ id }) => id === decision.id)).toMatchObject({
      why: 'The date is fixed.',
      takenBack: { by: 'Lea Marsh' },
    });
    await expect(db.perform(lead, takeBackDecision, decision.id)).rejects.toThrow('taken back already');
    await expect(db.perform(lead, takeBackDecision, createId<'decision'>() as DecisionId)).rejects.toThrow('not there');
  });

  it('is for whoever leads, and only while the cycle is open', async () => {
    const tester = await db.actorOf('Una Petrel');
    await expect(db.perform(tester, keepDecision, toDecision())).rejects.toMatchObject({ code: 'forbidden' });
    await expect(db.perform(lead, keepDecision, toDecision({ cycle: 'INT-1' }))).rejects.toThrow('Cycle INT-1 is closed');
    await expect(db.perform(lead, keepDecision, toDecision({ cycle: 'NONE' }))).rejects.toThrow('There is no cycle NONE.');
    expect((await look('INT-1')).decisions).toEqual([]);
  });
});
