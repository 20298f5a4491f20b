import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { toDay } from '@kindred-baton/core/time/calendar';
import { unpackStrip } from '@kindred-baton/core/progress/strip';
import { NO_COUNTS, sumCounts } from '@kindred-baton/core/progress/tally';
import { FACETS } from '@kindred-baton/core/progress/facet';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getStrip } from '../map/get-strip.ts';
import { progressQuerySchema } from '@kindred-baton/contracts/progress/progress';
import { getProgress } from '../progress/get-progress.ts';
import { listTurns } from '../turns/list-turns.ts';
import { getAcceptance } from './acceptance.ts';
import { changeScope } from './change-scope.ts';
import { getCycle } from './get-cycle.ts';
import { listRuns } from './list-runs.ts';
import { getCycleScope } from './get-cycle-scope.ts';
import { listCycles } from './list-cycles.ts';

const CODE = 'ACC-2';

describe('what is in scope', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  /** By status, counted by its own statement: what no run that was taken out has. */
  async function countAgain() {
    const { rows } = await db.store.db.execute<{ status: keyof typeof NO_COUNTS; turns: number; runs: number }>(sql`
      select turns.status, count(*)::int as turns from turns join runs on runs.id = turns.run_id join cycles on cycles.id = turns.cycle_id
      where cycles.code = ${CODE} and coalesce(runs.left_to::text, '') <> 'taken out' group by 1`);
    return { ...NO_COUNTS, ...Object.fromEntries(rows.map(({ status, turns }) => [status, turns])) };
  }

  async function allRuns() {
    const { pages } = await db.ask(lead, listRuns, { code: CODE, page: 1 });
    const all = Array.from({ length: pages }, (_, at) => db.ask(lead, listRuns, { code: CODE, page: at + 1 }));
    return (await Promise.all(all)).flatMap(({ runs }) => runs);
  }

  /** Every place that shows a total of the cycle. */
  async function readTotals() {
    const facet = FACETS[0];
    const [cycle, list, strip, progress, acceptance] = await Promise.all([
      db.ask(lead, getCycle, CODE),
      db.ask(lead, listCycles, undefined),
      db.ask(lead, getStrip, {}),
      db.ask(lead, getProgress, progressQuerySchema.parse({ cycle: CODE, rows: facet, columns: FACETS[1] ?? facet })),
      db.ask(lead, getAcceptance, CODE),
    ]);
    const inList = list.cycles.find(({ code }) => code === CODE);
    const roots = unpackStrip(strip.nodes)
      .filter(({ depth }) => depth === 0)
      .map(({ counts }) => counts);
    const add = (a: typeof NO_COUNTS, b: typeof NO_COUNTS) =>
      Object.fromEntries(Object.keys(NO_COUNTS).map((key) => [key, a[key as never] + b[key as never]])) as typeof NO_COUNTS;
    return {
      cycle,
      runs: { list: inList?.runs, cycle: cycle.runs },
      counts: {
        cycle: cycle.counts,
        list: { ...NO_COUNTS, ...inList?.counts },
        strip: { ...NO_COUNTS, ...roots.reduce(add, NO_COUNTS) },
        progress: progress.total,
        acceptance: acceptance.counts,
      },
    };
  }

  async function expectOneMeaning() {
    const { cycle, runs, counts } = await readTotals();
    const again = await countAgain();
    for (const [place, shown] of Object.entries(counts)) expect({ place, shown }).toEqual({ place, shown: again });
    expect(runs.list).toBe(runs.cycle);
    const { total } = await db.ask(lead, listTurns, { cycle: CODE, page: 1 });
    expect(total).toBe(sumCounts(again));
    for (const status of ['passed', 'skipped', 'failed', 'waiting'] as const) {
      const listed = await db.ask(lead, listTurns, { cycle: CODE, page: 1, status: [status] });
      expect({ status, total: listed.total }).toEqual({ status, total: again[status] });
    }
    const after = /after: ([^;]*)/.exec(cycle.scopeChanges.find(({ action }) => action === 'scope changed')?.details ?? '')?.[1];
    return { again, runs: runs.list ?? 0, after };
  }

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
    expect(rows[0]?.after).toEqual({ runs, turns: sumCounts(again) });
    // What was recorded stays to be read, at the run itself.
    const number = free?.number ?? 0;
    expect((await db.ask(lead, listTurns, { cycle: CODE, page: 1, run: number })).total).toBe(free?.turns.length);
  });

  it('is due from the day on which it was taken in', async () => {
    const newest = (await allRuns()).reduce((a, b) => (a.number > b.number ? a : b));
    const { turns } = await db.ask(lead, listTurns, { cycle: CODE, page: 1, run: newest.number });
    expect(turns.length).toBeGreaterThan(0);
    const today = toDay(Date.now(), lead.timeZone);
    expect(turns.filter(({ dueOn }) => dueOn === null || dueOn < today)).toEqual([]);
  });
});
