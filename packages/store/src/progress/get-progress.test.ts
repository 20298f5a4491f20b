import { progressQuerySchema } from '@kindred-baton/contracts/progress/progress';
import type { TurnList } from '@kindred-baton/contracts/turns/turn';
import { turnListQuerySchema } from '@kindred-baton/contracts/turns/turn';
import { unpackStrip } from '@kindred-baton/core/progress/strip';
import { getFacetFilter } from '@kindred-baton/core/progress/facet';
import { FACETS, NONE } from '@kindred-baton/core/progress/facet';
import type { RunOutcome, TurnStatus } from '@kindred-baton/core/outcomes';
import { pushTo } from '@kindred-baton/core/push-to';
import { COUNTED, getWorst, isWhole, RUN_STATUSES } from '@kindred-baton/core/progress/counted';
import type { Counts } from '@kindred-baton/core/progress/tally';
import { addCounts, getRunShare, NO_COUNTS, sumCounts } from '@kindred-baton/core/progress/tally';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ofCycle } from '../../../../tests/support/of-cycle.ts';
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
import { getHolds } from './get-holds.ts';
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
    const { total } = await db.ask(lead, getProgress, progressQuerySchema.parse({}));
    const { holds } = await db.ask(lead, getHolds, {});
    const all = sumCounts(total);
    expect(all).toBeGreaterThan(730);
    expect((total.passed + total.failed) / all).toBeCloseTo(0.6, 1);
    expect(total.passed / (total.passed + total.failed)).toBeCloseTo(0.93, 1);
    expect(new Set(holds.map(({ kind }) => kind))).toEqual(new Set(['defect', 'failure', 'block', 'idle']));
    expect([...holds].sort((a, b) => b.waiting - a.waiting)).toEqual(holds);
  });

  const look = (query: object) => db.ask(lead, getProgress, progressQuerySchema.parse(query));
  const list = (query: object) => db.ask(lead, listTurns, turnListQuerySchema.parse(query));
  const sum = (counts: readonly Partial<Counts>[]) => counts.reduce<number>((total, own) => total + sumCounts({ ...NO_COUNTS, ...own }), 0);

  it.each(FACETS)('opens, for each row by %s and counted as anything, the very turns that it counts', async (rows) => {
    const columns = rows === 'team' ? 'process' : 'team';
    for (const counted of COUNTED) {
      const view = await look({ cycle: 'ACC-2,INT-1', rows, columns, counted });
      const sizeOf = (listed: TurnList) =>
        ({ turns: listed.rows.size, runs: listed.runs, tests: listed.tests, minutes: listed.minutes })[counted];
      expect([rows, counted, sumCounts(view.total)]).toEqual([rows, counted, sizeOf(await list({ cycle: 'ACC-2,INT-1' }))]);
      if (!isWhole(counted) && !view.rows.isMany && view.rows.entries.length === view.rows.size) {
        expect(sum(view.cells.map(({ counts }) => counts))).toBe(sumCounts(view.total));
        expect(sum(view.rows.entries.map(({ counts }) => counts))).toBe(sumCounts(view.total));
        expect(sum(view.columns.entries.map(({ counts }) => counts))).toBe(sumCounts(view.total));
      }
      const filter = getFacetFilter(view.rows.facet);
      const of = (key: string) => ({ cycle: 'ACC-2,INT-1', [filter]: key || NONE });
      for (const row of view.rows.entries.slice(0, 5)) {
        expect([row.name, counted, sizeOf(await list(of(row.key)))]).toEqual([row.name, counted, sumCounts(row.counts)]);
        for (const status of ['passed', 'failed', 'waiting'] as const) {
          const listed = await list({ ...of(row.key), status, counted });
          expect([row.name, counted, status, sizeOf(listed)]).toEqual([row.name, counted, status, row.counts[status]]);
        }
      }
      const cell = view.cells[0];
      const column = view.columns.entries[cell?.column ?? 0];
      const both = { ...of(view.rows.entries[cell?.row ?? 0]?.key ?? ''), [getFacetFilter(columns)]: column?.key || NONE };
      expect(sizeOf(await list(both))).toBe(sum([cell?.counts ?? {}]));
    }
  });

  it('counts tests and whole runs by team as somebody does who looks at every turn', async () => {
    type Told = { team: string; test: string; run: string; status: TurnStatus; outcome: RunOutcome };
    const { rows: told } = await db.store.db.execute<Told>(sql`
      select coalesce(teams.name, '') as team, coalesce(t.test_id, t.id) as test, r.id as run, t.status, r.outcome from turns t
      join runs r on r.id = t.run_id join cycles c on c.id = t.cycle_id left join teams on teams.id = t.team_id
      where c.code = 'ACC-2' and coalesce(r.left_to::text, '') not in ('taken out', 'dropped')`);
    const countBy = (turns: readonly Told[], unit: 'test' | 'run') => {
      const counts = { ...NO_COUNTS };
      const groups = new Map<string, Told[]>();
      for (const turn of turns) pushTo(groups, turn[unit], turn);
      for (const own of groups.values())
        counts[unit === 'run' ? RUN_STATUSES[own[0]?.outcome ?? 'not run'] : (getWorst(own.map(({ status }) => status)) ?? 'waiting')] += 1;
      return counts;
    };
    for (const [counted, unit] of [
      ['tests', 'test'],
      ['runs', 'run'],
    ] as const) {
      const view = await look({ rows: 'team', columns: 'priority', counted });
      expect(view.total).toEqual(countBy(told, unit));
      for (const { key, counts } of view.rows.entries)
        expect([key, counts]).toEqual([
          key,
          countBy(
            told.filter(({ team }) => team === key),
            unit,
          ),
        ]);
    }
  });

  it('narrows by any value of any facet, and counts the same as the list that has both', async () => {
    for (const facet of FACETS.filter((each) => each !== 'process' && each !== 'cycle')) {
      const by = await look({ rows: facet, columns: 'cycle' });
      const entry = by.rows.entries.at(-1);
      const own = { [getFacetFilter(facet)]: entry?.key || NONE };
      const view = await look({ ...own, rows: 'process', columns: facet === 'team' ? 'person' : 'team' });
      expect([facet, view.total]).toEqual([facet, entry?.counts]);
      for (const row of view.rows.entries.slice(0, 3)) {
        const listed = await list({ cycle: 'ACC-2', ...own, node: row.key });
        expect([facet, row.name, listed.rows.size]).toEqual([facet, row.name, sumCounts(row.counts)]);
      }
    }
  });

  it('goes down with the scope: a stream’s processes, their activities, at last their tests', async () => {
    const all = await look({});
    const stream = await look({ scope: 'NS' });
    expect(stream.rows.entries).toEqual(all.rows.entries.filter(({ group }) => group === stream.rows.entries[0]?.group));
    expect(stream.path.map(({ code }) => code)).toEqual(['NS']);
    const process = await look({ scope: 'NS-1' });
    expect(process.rows.facet).toBe('process');
    expect(process.rows.entries.every(({ key }) => key.startsWith('NS-1.'))).toBe(true);
    expect(process.total).toEqual(stream.rows.entries.find(({ key }) => key === 'NS-1')?.counts);
    const activity = process.rows.entries[0];
    const last = await look({ scope: activity?.key });
    expect([last.rows.facet, last.total]).toEqual(['test', activity?.counts]);
    for (const row of last.rows.entries)
      expect((await list({ cycle: 'ACC-2', node: activity?.key, test: row.key })).rows.size).toBe(sumCounts(row.counts));
  });

  it('tells a turn at a node above the shown level by that node itself, not by all below it', async () => {
    const other = await createTestStore('demo');
    const hers = await other.actorOf('Lea Marsh');
    await other.store.db.execute(sql`update turns set node_id = (select id from nodes where code = 'NS') where id in (
      select t.id from turns t join cycles c on c.id = t.cycle_id where c.code = 'ACC-2' order by t.id limit 3)`);
    const view = await other.ask(hers, getProgress, progressQuerySchema.parse({}));
    const row = view.rows.entries.find(({ key }) => key === '=NS');
    const listed = await other.ask(hers, listTurns, turnListQuerySchema.parse({ cycle: 'ACC-2', node: '=NS' }));
    expect([row?.name, row && sumCounts(row.counts), listed.rows.size]).toEqual(['New supply itself', 3, 3]);
    await other.drop();
  });

  it('counts several cycles as their sums, compares them, and knows which are open and which were the last', async () => {
    const { db: raw } = db.store;
    const { rows } = await raw.execute<{ code: string; state: string }>(sql`select code, state from cycles order by starts_on desc`);
    const beside = await look({ cycle: rows.map(({ code }) => code).join(','), columns: 'cycle' });
    const planned = new Map<string, Counts>();
    for (const { code } of rows) planned.set(code, (await look({ cycle: code })).total);
    for (const { key, counts } of beside.columns.entries) expect([key, counts]).toEqual([key, planned.get(key)]);
    expect(beside.total).toEqual([...planned.values()].reduce(addCounts, NO_COUNTS));
    const codesOf = async (cycle: string) => (await look({ cycle })).chosen.map(({ code }) => code);
    expect(await codesOf('@open')).toEqual(rows.filter(({ state }) => ['open', 'closing'].includes(state)).map(({ code }) => code));
    expect(await codesOf('@last')).toEqual(
      rows
        .filter(({ state }) => state !== 'planning')
        .slice(0, 3)
        .map(({ code }) => code),
    );
    await expect(look({ cycle: 'ACC-2,NOPE' })).rejects.toThrow('There is no cycle NOPE.');
    expect((await look({ scope: 'NOPE' })).rows.size).toBe(0);
  });

  it('sorts rows as is wanted, over all pages, and not by what is not shown', async () => {
    const ordered = async (query: object) =>
      (await look({ rows: 'person', columns: 'process', ...query })).rows.entries.map(({ counts }) => counts);
    const isDown = (values: readonly number[]) => expect([...values].sort((a, b) => b - a)).toEqual(values);
    isDown((await ordered({ sort: 'errors' })).map(({ failed, blocked }) => failed + blocked));
    isDown((await ordered({ sort: 'passed' })).map(({ passed }) => passed));
    isDown((await ordered({ sort: 'run share' })).map((counts) => 1 - (getRunShare(counts) ?? 1)));
    expect(await ordered({ sort: 'errors', parts: 'passed,rest' })).toEqual(await ordered({}));
  });

  it('opens, for each hold, the turns that wait behind it', async () => {
    const { holds } = await db.ask(lead, getHolds, {});
    for (const hold of holds) {
      const listed = await db.ask(lead, listTurns, { ...ofCycle('ACC-2'), hold: `${hold.kind}:${hold.key}` });
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
    const view = await db.ask(lead, getHolds, {});
    const { columns } = await db.ask(lead, getProgress, progressQuerySchema.parse({}));
    const held = await Promise.all(
      view.holds
        .filter(({ kind }) => kind !== 'idle')
        .map(({ kind, key }) => db.ask(lead, listTurns, { ...ofCycle('ACC-2'), hold: `${kind}:${key}` })),
    );
    expect(new Set(held.flatMap(({ turns }) => turns.map(({ id }) => id))).size).toBe(rows[0]?.waiting);
    expect(view.held).toBe(view.holds.length);
    const teams = new Set(columns.entries.map(({ key }) => key));
    const apart = await Promise.all([...teams].map((holdsOf) => db.ask(lead, getHolds, { holdsOf })));
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
    expect(await countQueries(() => db.ask(lead, getProgress, progressQuerySchema.parse({})))).toBe(5);
    expect(await countQueries(() => db.ask(lead, getProgress, progressQuerySchema.parse({ scope: 'PU-3' })))).toBe(5);
    expect(await countQueries(() => db.ask(lead, getHolds, {}))).toBe(6);
    expect(await countQueries(() => db.ask(lead, getStrip, {}))).toBe(3);
    expect(await countQueries(() => db.ask(lead, getMap, undefined))).toBe(10);
    expect(await countQueries(() => db.ask(lead, listTests, testFilterSchema.parse({})))).toBe(5);
    expect(await countQueries(() => db.ask(lead, listScenarios, { page: 1 }))).toBe(7);
    expect(await countQueries(() => db.ask(lead, getCycle, 'ACC-2'))).toBe(7);
    expect(await countQueries(() => db.ask(lead, listTurns, { ...ofCycle('ACC-2') }))).toBe(10);
    expect(await countQueries(() => db.ask(lead, getTurnsHome, undefined))).toBeLessThanOrEqual(20);
  });
});
