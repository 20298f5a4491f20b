/** The figures of what goes out and of rounds beside each other: a million step rows as CSV through the server, and progress over five cycles with 200,000 turns. */
import { readFileSync } from 'node:fs';
import { progressQuerySchema } from '@kindred-baton/contracts/progress/progress';
import { ask } from '@kindred-baton/store/operation';
import { getHolds } from '@kindred-baton/store/progress/get-holds';
import { getProgress } from '@kindred-baton/store/progress/get-progress';
import { sql } from 'drizzle-orm';
import type { Figure } from './bench-figure.ts';
import { median } from './bench-figure.ts';
import type { BenchHouse } from './bench-testers.ts';
import { inBenchHouse, openSession } from './bench-testers.ts';

const STEP_ROWS = 1_000_000;
const TURNS = 200_000;
const CYCLES = 5;
const ROUNDS = 5;

export const benchExtracts = (databaseUrl: string): Promise<Figure[]> =>
  inBenchHouse(databaseUrl, undefined, async (house) => [...(await benchRows(house)), ...(await benchTable(house))]);

async function timed(work: () => Promise<unknown>): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

/** Steps told again and again, at every attempt there is. */
async function benchRows({ store, server, lead }: BenchHouse): Promise<Figure[]> {
  await store.db.execute(sql`
    insert into step_results (programme_id, attempt_id, step_index, outcome, note, recorded_at, word_id, by_id)
    select a.programme_id, a.id, g, 'passed', 'said at step ' || g, now(), gen_random_uuid(), a.person_id from attempts a,
      generate_series(1000, 999 + (select ceil(${STEP_ROWS}::numeric / count(*))::int from attempts)) g`);
  await store.pool.query('vacuum analyze step_results');
  const cookie = await openSession(store, lead.personId);
  const getMB = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))?.[1]) / 1_024;
  // Its threads have begun before, so that what they take by themselves is not counted.
  await (await fetch(`${server.baseUrl}/api/brindlemere/extracts/turns`, { headers: { cookie } })).text();
  const before = getMB();
  let [lines, bytes, most] = [0, 0, 0];
  const quarters: string[] = [];
  const out = await timed(async () => {
    const answer = await fetch(`${server.baseUrl}/api/brindlemere/extracts/steps`, { headers: { cookie, 'accept-encoding': 'identity' } });
    const reader = answer.body?.getReader();
    for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
      bytes += part.value.length;
      for (const byte of part.value) if (byte === 10) lines += 1;
      most = Math.max(most, getMB());
      if (lines >= ((quarters.length + 1) * STEP_ROWS) / 4) quarters.push((getMB() - before).toFixed(0));
    }
  });
  // The reference: the same rows with the same joins and as many cells, as the driver gives them, and nothing made of them.
  const client = await store.pool.connect();
  const bare = await timed(async () => {
    await client.query('begin');
    await client.query(`declare bare no scroll cursor for select t.id, c.code, c.purpose, n.name, n.code as node, s.code as scenario, s.name as scenario_name,
      r.row_name, r.number as run, t.index, te.code as test, t.title, ap.name as application, r.priority, teams.name as team, a.id as attempt, a.number,
      sr.step_index, v.steps -> sr.step_index ->> 'do' as action, v.steps -> sr.step_index ->> 'target' as target, sr.outcome, p.name as by, ru.name as runner,
      sr.expected, sr.actual, sr.note, sr.recorded_at, sr.took_ms
      from step_results sr join attempts a on a.id = sr.attempt_id join turns t on t.id = a.turn_id join runs r on r.id = t.run_id join cycles c on c.id = t.cycle_id
      join scenarios s on s.id = r.scenario_id join nodes n on n.id = t.node_id left join tests te on te.id = t.test_id left join applications ap on ap.id = te.application_id
      left join teams on teams.id = t.team_id join people p on p.id = sr.by_id left join runners ru on ru.id = sr.runner_id left join test_versions v on v.id = a.version_id
      where sr.outcome is not null`);
    while ((await client.query('fetch 2000 from bare')).rows.length > 0) continue;
    await client.query('commit');
  });
  client.release();
  const note = `${lines.toLocaleString('en')} lines, ${(bytes / 1e6).toFixed(0)} MB in ${(out / 1_000).toFixed(1)} s; bare ${(bare / 1_000).toFixed(1)} s`;
  return [
    {
      name: 'A million step rows as CSV through the server',
      value: out / bare,
      bound: 2,
      unit: '× a bare cursor over the same rows',
      note,
    },
    {
      name: 'What they take of the server’s memory',
      value: most - before,
      bound: 250,
      unit: 'MB',
      note: `${before.toFixed(0)} MB before; more at each quarter: ${quarters.join(', ')} MB`,
    },
  ];
}

/** The demo's open round, again and again under five cycles. */
async function benchTable({ store, lead }: BenchHouse): Promise<Figure[]> {
  const client = await store.pool.connect();
  // Rows as they stand, without what triggers would make of them.
  await client.query('set session_replication_role = replica');
  const { rows: found } = await client.query<{ copies: number }>(
    `select ceil(${TURNS / CYCLES}::numeric / count(*))::int as copies from turns where cycle_id = (select id from cycles where code = 'ACC-2')`,
  );
  for (let cycle = 0; cycle < CYCLES; cycle += 1)
    await client.query(`
      with source as (select * from cycles where code = 'ACC-2'), made as (
        insert into cycles select p.* from source, lateral jsonb_populate_record(null::cycles, to_jsonb(source)
          || jsonb_build_object('id', gen_random_uuid(), 'code', 'BENCH-${cycle}', 'state', 'closed', 'closed_at', now())) p returning id
      ), run_ids as materialized (
        select r.id as run_id, gen_random_uuid() as id, row_number() over () as number from runs r, generate_series(1, ${found[0]?.copies ?? 1})
        where r.cycle_id = (select id from source)
      ), made_runs as (
        insert into runs select p.* from run_ids i join runs r on r.id = i.run_id, lateral jsonb_populate_record(null::runs, to_jsonb(r)
          || jsonb_build_object('id', i.id, 'cycle_id', (select id from made), 'number', i.number)) p
      )
      insert into turns select p.* from run_ids i join turns t on t.run_id = i.run_id, lateral jsonb_populate_record(null::turns, to_jsonb(t)
        || jsonb_build_object('id', gen_random_uuid(), 'cycle_id', (select id from made), 'run_id', i.id)) p`);
  client.release(true);
  await store.pool.query('vacuum analyze turns, runs, cycles');
  const cycles = Array.from({ length: CYCLES }, (_, cycle) => `BENCH-${cycle}`);
  const query = progressQuerySchema.parse({ cycle: cycles.join(','), rows: 'process', columns: 'team' });
  const ratios: number[] = [];
  const helds: number[] = [];
  const [whole, bare]: [number[], number[]] = [[], []];
  for (let round = 0; round < ROUNDS; round += 1) {
    const one = await timed(() =>
      store.db.execute(sql`select t.node_id, t.team_id, t.status, count(*) from turns t join cycles c on c.id = t.cycle_id
        where c.code = any(${sql.param(cycles)}::text[]) group by 1, 2, 3`),
    );
    const all = await timed(() => ask(store, lead, getProgress, query));
    helds.push(await timed(() => ask(store, lead, getHolds, { cycle: cycles })));
    whole.push(all);
    bare.push(one);
    ratios.push(all / one);
  }
  return [
    {
      name: `Progress over ${CYCLES} cycles and ${TURNS.toLocaleString('en')} turns, two facets`,
      ...{ value: median(ratios), bound: 3, unit: '× one query that counts them by two columns' },
      note: `${median(whole).toFixed(0)} ms against ${median(bare).toFixed(0)} ms; where their batons are held, asked beside it: ${(median(helds) / median(bare)).toFixed(1)} ×`,
    },
  ];
}
