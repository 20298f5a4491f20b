import { progressQuerySchema } from '@kindred-baton/contracts/progress/progress';
import { unpackStrip } from '@kindred-baton/core/progress/strip';
import { getFacetFilter } from '@kindred-baton/core/progress/facet';
import { FACETS } from '@kindred-baton/core/progress/facet';
import type { Counts } from '@kindred-baton/core/progress/tally';
import { NO_COUNTS, sumCounts } from '@kindred-baton/core/progress/tally';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getCycle } from '../cycles/get-cycle.ts';
import { getMap } from '../map/get-map.ts';
import { getStrip } from '../map/get-strip.ts';
import { listScenarios } from '../scenarios/list-scenarios.ts';
import { testFilterSchema } from '@kindred-baton/contracts/tests/library';
import { listTests } from '../tests/list-tests.ts';
import { getTurnsHome } from '../turns/get-turns-home.ts';
import { listTurns } from '../turns/list-turns.ts';
import { getProgress } from './get-progress.ts';

describe('progress', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  it('shows the demo’s open round as its page says: about 750 turns, 60 % run, 93 % passed, four kinds of holds', async () => {
    const { total, holds } = await db.ask(lead, getProgress, progressQuerySchema.parse({}));
    const all = sumCounts(total);
    expect(all).toBeGreaterThan(730);
    expect((total.passed + total.failed) / all).toBeCloseTo(0.6, 1);
    expect(total.passed / (total.passed + total.failed)).toBeCloseTo(0.93, 1);
    expect(new Set(holds.map(({ kind }) => kind))).toEqual(new Set(['defect', 'failure', 'block', 'idle']));
    expect([...holds].sort((a, b) => b.waiting - a.waiting)).toEqual(holds);
  });

  it.each(FACETS)('opens, for each row by %s, the very turns that it counts', async (rows) => {
    const columns = rows === 'team' ? 'process' : 'team';
    const view = await db.ask(lead, getProgress, progressQuerySchema.parse({ rows, columns }));
    const sum = (counts: readonly Partial<Counts>[]) => counts.reduce((total, own) => total + sumCounts({ ...NO_COUNTS, ...own }), 0);
    expect([sum(view.cells.map(({ counts }) => counts)), sum(view.columnTotals)]).toEqual([sumCounts(view.total), sumCounts(view.total)]);
    for (const [index, row] of view.rows.entries.slice(0, 6).entries()) {
      const counted = sum(view.cells.flatMap((cell) => (cell.row === index ? [cell.counts] : [])));
      const listed = await db.ask(lead, listTurns, { cycle: 'ACC-2', page: 1, [getFacetFilter(rows)]: row.key || '-' });
      expect([row.name, listed.rows.size]).toEqual([row.name, counted]);
    }
  });

  it('opens, for each hold, the turns that wait behind it', async () => {
    const { holds } = await db.ask(lead, getProgress, progressQuerySchema.parse({}));
    for (const hold of holds) {
      const listed = await db.ask(lead, listTurns, { cycle: 'ACC-2', page: 1, hold: `${hold.kind}:${hold.key}` });
      expect([hold.title, listed.rows.size]).toEqual([hold.title, hold.waiting]);
    }
  });

  it('scopes to a branch of the strip, with the same counts as the strip itself', async () => {
    const strip = await db.ask(lead, getStrip, {});
    for (const node of unpackStrip(strip.nodes).filter(({ depth }) => depth < 2)) {
      const { total } = await db.ask(lead, getProgress, progressQuerySchema.parse({ scope: node.code }));
      expect([node.code, total]).toEqual([node.code, node.counts]);
    }
  });

  it('counts as somebody does who looks at every turn, page by page', async () => {
    const { rows } = await db.store.db.execute<{ scenario: string; person: string; status: string }>(sql`
      select s.code as scenario, coalesce(p.name, '') as person, t.status from turns t
      join runs r on r.id = t.run_id join scenarios s on s.id = r.scenario_id join cycles c on c.id = t.cycle_id left join people p on p.id = t.assignee_id
      where c.code = 'ACC-2' and coalesce(r.left_to::text, '') not in ('taken out', 'dropped')`);
    const one = new Map<string, number>();
    for (const { scenario, person, status } of rows)
      one.set(`${scenario} ${person} ${status}`, (one.get(`${scenario} ${person} ${status}`) ?? 0) + 1);
    const other = new Map<string, number>();
    const pages = new Set<string>();
    for (const [fromRow, fromColumn] of [
      [0, 0],
      [40, 0],
      [0, 24],
      [7_000, 7_000],
    ]) {
      const view = await db.ask(lead, getProgress, progressQuerySchema.parse({ rows: 'scenario', columns: 'person', fromRow, fromColumn }));
      if (pages.has(`${view.rows.from} ${view.columns.from}`)) continue;
      pages.add(`${view.rows.from} ${view.columns.from}`);
      for (const { row, column, counts } of view.cells)
        for (const [status, turns] of Object.entries(counts))
          if (turns > 0) other.set(`${view.rows.entries[row]?.key} ${view.columns.entries[column]?.key} ${status}`, turns);
    }
    expect(other).toEqual(one);
  });

  it('tells where the baton is held as somebody does who looks at every turn, and of one team what is held there', async () => {
    const { rows } = await db.store.db.execute<{ waiting: number }>(sql`
      with recursive bad as (
        select t.id, t.run_id, t.index from turns t join cycles c on c.id = t.cycle_id
        where c.code = 'ACC-2' and (t.status in ('failed', 'blocked') or (t.status = 'ready' and t.assignee_id is not null and t.ready_at is not null))
      ), behind as (
        select bad.id as bad, t.id, t.run_id, t.index from bad join turns t on t.run_id = bad.run_id and bad.index = any (t.after)
        union select behind.bad, t.id, t.run_id, t.index from behind join turns t on t.run_id = behind.run_id and behind.index = any (t.after)
      )
      select count(distinct behind.id)::int as waiting from behind join bad on bad.id = behind.bad
      join turns t on t.id = behind.id join turns b on b.id = bad.id
      where t.status in ('waiting', 'held', 'ready', 'under way') and b.status in ('failed', 'blocked')`);
    const view = await db.ask(lead, getProgress, progressQuerySchema.parse({}));
    const held = await Promise.all(
      view.holds
        .filter(({ kind }) => kind !== 'idle')
        .map(({ kind, key }) => db.ask(lead, listTurns, { cycle: 'ACC-2', page: 1, hold: `${kind}:${key}` })),
    );
    expect(new Set(held.flatMap(({ turns }) => turns.map(({ id }) => id))).size).toBe(rows[0]?.waiting);
    expect(view.held).toBe(view.holds.length);
    const teams = new Set(view.columns.entries.map(({ key }) => key));
    const apart = await Promise.all([...teams].map((holdsOf) => db.ask(lead, getProgress, progressQuerySchema.parse({ holdsOf }))));
    expect(apart.reduce((sum, { held: own }) => sum + own, 0)).toBe(view.held);
    expect(apart.flatMap(({ holds }) => holds.map(({ key }) => key)).sort()).toEqual(view.holds.map(({ key }) => key).sort());
  });

  it('asks a fixed number of questions, whatever there is to count', async () => {
    const countQueries = async (ask: () => Promise<unknown>) => {
      db.queries.length = 0;
      await ask();
      // Without the three statements of the spine: begin, whose programme, commit.
      return db.queries.length - 3;
    };
    expect(await countQueries(() => db.ask(lead, getProgress, progressQuerySchema.parse({})))).toBe(10);
    expect(await countQueries(() => db.ask(lead, getProgress, progressQuerySchema.parse({ scope: 'PU-3' })))).toBe(9);
    expect(await countQueries(() => db.ask(lead, getStrip, {}))).toBe(3);
    expect(await countQueries(() => db.ask(lead, getMap, undefined))).toBe(10);
    expect(await countQueries(() => db.ask(lead, listTests, testFilterSchema.parse({})))).toBe(5);
    expect(await countQueries(() => db.ask(lead, listScenarios, { page: 1 }))).toBe(7);
    expect(await countQueries(() => db.ask(lead, getCycle, 'ACC-2'))).toBe(7);
    expect(await countQueries(() => db.ask(lead, listTurns, { cycle: 'ACC-2', page: 1 }))).toBe(10);
    expect(await countQueries(() => db.ask(lead, getTurnsHome, undefined))).toBeLessThanOrEqual(20);
  });
});
