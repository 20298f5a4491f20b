import { rowsQuerySchema } from '@kindred-baton/contracts/extracts/extract';
import { turnListQuerySchema } from '@kindred-baton/contracts/turns/turn';
import type { RowKind } from '@kindred-baton/core/extracts/row-kinds';
import { listColumns, ROW_KIND_NAMES } from '@kindred-baton/core/extracts/row-kinds';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { listTurns } from '../turns/list-turns.ts';
import type { RowPage } from './read-rows.ts';
import { readRowPage, streamRows } from './read-rows.ts';
import { askInParts } from '../operation.ts';

type Row = Record<string, string | number | null>;

describe('rows that go out', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const readAll = async (kind: RowKind, query: object, { limit = 5_000 } = {}) => {
    const lines: string[] = [];
    let after: string | null = null;
    do {
      const chunk: RowPage = await db.ask(lead, readRowPage, { kind, query: rowsQuerySchema.parse(query), after, limit });
      expect(chunk.lines.length).toBeLessThanOrEqual(limit);
      lines.push(...chunk.lines);
      after = chunk.next;
    } while (after !== null);
    return lines;
  };
  const rowsOf = async (kind: RowKind, query: object, more = {}) =>
    (await readAll(kind, query, more)).map((line) => JSON.parse(line) as Row);
  const countBy = async (question: ReturnType<typeof sql>) => (await db.store.db.execute<{ n: number }>(question)).rows[0]?.n;

  it.each(ROW_KIND_NAMES)('of %s have all the columns that are promised, each once, page by page as in one', async (kind) => {
    const whole = await rowsOf(kind, { cycle: 'ACC-2' });
    expect(whole.length).toBeGreaterThan(5);
    expect(new Set(whole.flatMap((row) => Object.keys(row)))).toEqual(new Set(listColumns(kind).map(({ name }) => name)));
    for (const { name, type } of listColumns(kind))
      for (const value of whole.flatMap((row) => row[name] ?? [])) {
        if (type === 'number') expect(typeof value).toBe('number');
        if (type === 'day') expect(value).toMatch(/^\d{4}-\d\d-\d\d$/);
        if (type === 'moment') expect(value).toBe(new Date(String(value)).toISOString());
      }
    expect(await rowsOf(kind, { cycle: 'ACC-2' }, { limit: 97 })).toEqual(whole);
    expect(new Set(whole.map((row) => JSON.stringify(row))).size).toBe(whole.length);
  });

  const streamAll = async (from: TestStore, kind: RowKind, as: 'csv' | 'json') => {
    const lines: string[] = [];
    for await (const part of askInParts(from.store, await from.actorOf('Lea Marsh'), streamRows, {
      kind,
      as,
      query: rowsQuerySchema.parse({}),
    })) {
      expect(part.length).toBeLessThanOrEqual(2_000);
      lines.push(...part);
    }
    return lines;
  };

  it.each(ROW_KIND_NAMES)('of %s are the same in parts, and leave no connection behind where they are left in the middle', async (kind) => {
    expect((await streamAll(db, kind, 'json')).sort()).toEqual((await readAll(kind, {})).sort());
    const parts = askInParts(db.store, lead, streamRows, { kind, as: 'csv', query: rowsQuerySchema.parse({}) });
    await parts.next();
    await parts.return();
    expect(db.store.pool.idleCount).toBe(db.store.pool.totalCount);
  });

  it('are as many as there are', async () => {
    const inScope = sql`join runs r on r.id = t.run_id and coalesce(r.left_to::text, '') <> 'taken out'`;
    expect((await readAll('turns', {})).length).toBe(await countBy(sql`select count(*)::int as n from turns t ${inScope}`));
    expect((await readAll('attempts', {})).length).toBe(
      await countBy(sql`select count(*)::int as n from attempts a join turns t on t.id = a.turn_id ${inScope}`),
    );
    expect((await readAll('steps', {})).length).toBe(
      await countBy(sql`select count(*)::int as n from step_results s join attempts a on a.id = s.attempt_id join turns t on t.id = a.turn_id ${inScope}
        where s.outcome is not null`),
    );
    expect((await readAll('defects', {})).length).toBe(await countBy(sql`select count(*)::int as n from defects`));
  });

  it('of turns are the very turns that a list with the same filters has', async () => {
    for (const query of [
      { cycle: 'ACC-2', team: 'Billing' },
      { cycle: 'ACC-2,INT-1', status: 'failed,blocked' },
      { cycle: 'ACC-2', node: 'NS-1', application: '-' },
      { cycle: 'ACC-2', late: 'yes' },
      { cycle: 'ACC-2', counted: 'tests', status: 'failed' },
    ]) {
      const listed = await db.ask(lead, listTurns, turnListQuerySchema.parse(query));
      expect([query, (await readAll('turns', query)).length]).toEqual([query, listed.rows.size]);
    }
  });

  it('tell a turn as the store has it', async () => {
    const rows = await rowsOf('turns', { cycle: 'ACC-2' });
    const failed = rows.find(({ status, defects }) => status === 'failed' && defects !== null);
    const { rows: kept } = await db.store.db.execute<Row>(sql`
      select c.code as cycle, n.code as node, s.code as scenario, r.number as run, t.index + 1 as leg, te.code as test, t.title, t.due_on::text, teams.name as team,
        p.name as tester, (select string_agg(n2.name, ' > ' order by length(n2.code)) from nodes n2 where n.code = n2.code or n.code like n2.code || '-%' or n.code like n2.code || '.%') as node_path
      from turns t join cycles c on c.id = t.cycle_id join nodes n on n.id = t.node_id join runs r on r.id = t.run_id join scenarios s on s.id = r.scenario_id
      join tests te on te.id = t.test_id join teams on teams.id = t.team_id left join people p on p.id = t.assignee_id where t.id = ${failed?.['turn']}`);
    expect(failed).toMatchObject(kept[0] ?? {});
    expect(failed?.['defects']).toMatch(/^TQ-\d+( TQ-\d+)*$/);
  });

  it('since a day begin with that day of the programme, and since a moment with that moment', async () => {
    const all = await rowsOf('steps', {});
    const moments = all.map((row) => String(row['recorded_at'])).sort();
    const middle = moments[Math.floor(moments.length / 2)] ?? '';
    expect((await readAll('steps', { since: middle })).length).toBe(moments.filter((at) => at >= middle).length);
    const day = middle.slice(0, 10);
    const own = new Intl.DateTimeFormat('sv-SE', { timeZone: lead.timeZone });
    expect((await readAll('steps', { since: day })).length).toBe(moments.filter((at) => own.format(new Date(at)) >= day).length);
  });

  it('are filtered as is said, or refused', async () => {
    const billing = await rowsOf('defects', { team: 'Billing', scope: 'NS' });
    expect(billing.length).toBeGreaterThan(0);
    expect(billing.every(({ team, node }) => team === 'Billing' && String(node).startsWith('NS'))).toBe(true);
    await expect(readAll('defects', { tag: 'x' })).rejects.toThrow(
      'Defects are not filtered by tag; by cycle, scope, team and since they are.',
    );
    await expect(readAll('turns', { cycle: 'NOPE' })).rejects.toThrow('There is no cycle NOPE.');
    const bad = { kind: 'steps' as const, query: rowsQuerySchema.parse({}), limit: 5 };
    for (const after of ['x', '1', `${lead.personId}`, `${lead.personId}:1; drop table turns`, `${lead.personId}:99999999999`])
      await expect(db.ask(lead, readRowPage, { ...bad, after })).rejects.toThrow('There is no page behind this');
  });

  it('as lines let no spreadsheet take a text for a formula, and keep quotes and line ends', async () => {
    const other = await createTestStore('demo');
    const texts = ['=1+1', '+SUM(A1)', '@x', '-2', '- a list', '"quoted", and\nbroken', '  '];
    for (const [index, text] of texts.entries())
      await other.store.db.execute(
        sql`update defects set title = ${text} where number = (select number from defects order by number offset ${index} limit 1)`,
      );
    const lines = await streamAll(other, 'defects', 'csv');
    const titles = lines.sort().map((line) => /^"[^"]*","((?:[^"]|"")*)"/.exec(line)?.[1]?.replaceAll('""', '"'));
    expect(titles.slice(0, texts.length)).toEqual(["'=1+1", "'+SUM(A1)", "'@x", '-2', "'- a list", '"quoted", and\nbroken', '  ']);
    await other.drop();
  });

  it('ask the database a fixed number of times for a chunk', async () => {
    for (const kind of ROW_KIND_NAMES) {
      db.queries.length = 0;
      await db.ask(lead, readRowPage, { kind, query: rowsQuerySchema.parse({ cycle: 'ACC-2' }), after: null, limit: 5_000 });
      expect([kind, db.queries.length - 3]).toEqual([kind, 2]);
    }
  });
});
