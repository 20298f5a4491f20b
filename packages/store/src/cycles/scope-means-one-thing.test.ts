import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { toDay } from '@kindred-baton/core/time/calendar';
import { sumCounts } from '@kindred-baton/core/progress/tally';
import { ofCycle } from '../../../../tests/support/of-cycle.ts';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import { expectSameTotals } from '../../../../tests/support/same-totals.ts';
import type { Actor } from '../actor.ts';
import { listTurns } from '../turns/list-turns.ts';
import { changeScope } from './change-scope.ts';
import { listRuns } from './list-runs.ts';
import { getCycleScope } from './get-cycle-scope.ts';

const CODE = 'ACC-2';

describe('what is in scope', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  async function allRuns() {
    const { pages } = await db.ask(lead, listRuns, { code: CODE, page: 1 });
    const all = Array.from({ length: pages }, (_, at) => db.ask(lead, listRuns, { code: CODE, page: at + 1 }));
    return (await Promise.all(all)).flatMap(({ runs }) => runs);
  }

  const expectOneMeaning = () => expectSameTotals(db, lead, CODE);

  it('is the same in the cycle, the list of cycles, the strip, progress, acceptance and the list of turns', async () => {
    await expectOneMeaning();
  });

  it('stays so when runs that were tried in part are taken out and others come in, and the history says the same', async () => {
    const before = await expectOneMeaning();
    const tried = (await allRuns()).filter(({ turns, outcome }) => outcome === 'failed' && turns.some(({ status }) => status === 'passed'));
    const free = tried.find(({ turns }) => turns.every(({ status }) => status !== 'under way'));
    expect(free).toBeDefined();
    const scope = await db.ask(lead, getCycleScope, undefined);
    const added = scope.scenarios.find(({ code }) => code === free?.scenario.code);
    await db.perform(lead, changeScope, {
      code: CODE,
      change: {
        add: [{ scenarioId: added?.id as never, rowIds: added?.rows.slice(0, 1).map(({ id }) => id) ?? [] }],
        drop: [free?.id as never],
        why: 'Tried by the suppliers',
      },
    });
    const { again, runs } = await expectOneMeaning();
    expect(runs).toBe(before.runs);
    expect(sumCounts(again)).toBe(sumCounts(before.again));
    expect(again.failed).toBeLessThan(before.again.failed);
    const { rows } = await db.store.db.execute<{ after: { runs: number; turns: number } }>(
      sql`select details -> 'after' as after from history where action = 'scope changed' order by id desc limit 1`,
    );
    expect(rows[0]?.after).toMatchObject({ runs, turns: sumCounts(again) });
    // What was recorded stays to be read, at the run itself.
    const number = free?.number ?? 0;
    expect((await db.ask(lead, listTurns, { ...ofCycle(CODE), run: number })).rows.size).toBe(free?.turns.length);
  });

  it('is due from the day on which it was taken in', async () => {
    const newest = (await allRuns()).reduce((a, b) => (a.number > b.number ? a : b));
    const { turns } = await db.ask(lead, listTurns, { ...ofCycle(CODE), run: newest.number });
    expect(turns.length).toBeGreaterThan(0);
    const today = toDay(Date.now(), lead.timeZone);
    expect(turns.filter(({ dueOn }) => dueOn === null || dueOn < today)).toEqual([]);
  });
});
