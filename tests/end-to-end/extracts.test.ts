import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import type { IncomingMessage } from 'node:http';
import { get } from 'node:http';
import { setTimeout as sleep } from 'node:timers/promises';
import { listColumns } from '@kindred-baton/core/extracts/row-kinds';
import pg from 'pg';
import * as XLSX from 'xlsx';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestBrowser, Visitor } from '../support/browser.ts';
import { launchBrowser, openAs } from '../support/browser.ts';
import { copyTemplate } from '../support/test-store.ts';
import type { WebServer } from '../support/web-server.ts';
import { startWebServer } from '../support/web-server.ts';

const ROWS = '/api/brindlemere/extracts';
/** Rows that one attempt is given, so that a download is long: 300,000 lines, some 100 MB. */
const MANY = 300_000;
/** For so long nobody takes them; what the server may take more meanwhile, in MB. All of them as they are written are 115 MB, and more as texts. */
const LYING_MS = 10_000;
const MOST_LYING_MB = 40;

/** A house of its own: it makes an attempt with very many steps. */
describe('rows that go out', () => {
  let server: WebServer;
  let client: pg.Client;
  let chromium: TestBrowser;
  let lead: Visitor;
  let token: string;
  beforeAll(async () => {
    const database = await copyTemplate('demo');
    client = new pg.Client({ connectionString: database });
    await client.connect();
    server = await startWebServer(database);
    chromium = await launchBrowser();
    lead = await openAs(chromium.browser, server.baseUrl, 'Lea Marsh');
  });
  afterAll(async () => {
    await chromium.close();
    await server.stop();
    await client.end();
  });

  /** As a spreadsheet asks: without a session. */
  const read = (path: string, headers: Record<string, string> = {}) => fetch(`${server.baseUrl}${ROWS}${path}`, { headers });
  const readTable = async (path: string) => {
    const answer = await read(`${path}${path.includes('?') ? '&' : '?'}token=${token}`);
    expect(answer.status).toBe(200);
    const book = XLSX.read(new Uint8Array(await answer.arrayBuffer()), { type: 'array', raw: true, codepage: 65_001 });
    return XLSX.utils.sheet_to_json<string[]>(book.Sheets[book.SheetNames[0] ?? ''] ?? {}, { header: 1, raw: true });
  };

  it('have an address, made in a minute by whoever may read, and shown once', async () => {
    await lead.go('/brindlemere/progress');
    await lead.press('Data');
    await lead.press('An address that is always new …', 'menuitem');
    await lead.sees('Data for spreadsheets');
    await lead.press('Make an address for data');
    await lead.type('What is it for?', 'Steering sheet');
    await lead.press('Make it');
    await lead.sees('now and never again');
    const address = await lead.page.$eval('[aria-label="Address for data"]', (node) => (node as HTMLInputElement).value);
    token = new URL(address).searchParams.get('token') ?? '';
    await lead.press('I have it');
    await lead.sees('Steering sheet');
    const answer = await fetch(address);
    expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'text/csv; charset=utf-8']);
  });

  it('are read by another program as they were written: CSV, JSON lines, a workbook and pages have the same', async () => {
    const [heads, ...lines] = await readTable('/turns?cycle=ACC-2&team=Billing');
    const names = listColumns('turns').map(({ name }) => name);
    expect(heads).toEqual(names);
    const inBook = await readTable('/turns?cycle=ACC-2&team=Billing&format=xlsx');
    const text = await (await read(`/turns?cycle=ACC-2&team=Billing&format=jsonl&token=${token}`)).text();
    const objects = text
      .trimEnd()
      .split('\n')
      .map((line) => JSON.parse(line) as Record<string, string | number | null>);
    // All at once they come in no order, page by page in that of their ids.
    const inOrder = <Row>(rows: Row[], idOf: (row: Row) => string) => rows.sort((a, b) => (idOf(a) < idOf(b) ? -1 : 1));
    const toCells = (cells: readonly unknown[]) => names.map((_, at) => String(cells[at] ?? ''));
    expect(lines.length).toBeGreaterThan(50);
    const ofObjects = objects.map((object) => toCells(names.map((name) => object[name])));
    const sorted = (tables: string[][]) => inOrder(tables, ([id = '']) => id);
    expect(sorted(lines.map(toCells))).toEqual(sorted(ofObjects));
    expect(sorted(inBook.slice(1).map(toCells))).toEqual(sorted(ofObjects));
    const paged: typeof objects = [];
    for (let path = `${ROWS}/turns?cycle=ACC-2&team=Billing&format=json&limit=40`; path !== '';) {
      const answer = await fetch(`${server.baseUrl}${path}`, { headers: { authorization: `Bearer ${token}` } });
      const page = (await answer.json()) as { rows: typeof objects; next: string | null };
      expect(page.rows.length).toBeLessThanOrEqual(40);
      paged.push(...page.rows);
      path = /<([^>]+)>; rel="next"/.exec(answer.headers.get('link') ?? '')?.[1] ?? '';
      expect(path === '').toBe(page.next === null);
    }
    expect(paged).toEqual(inOrder(objects, (row) => String(row['turn'])));
  });

  it('that have not changed do not travel again', async () => {
    const path = `/defects?format=json&token=${token}`;
    const tag = (await read(path)).headers.get('etag') ?? '';
    const again = await read(path, { 'if-none-match': tag });
    expect([again.status, await again.text()]).toEqual([304, '']);
    await client.query(`update defects set title = title || '!' `);
    expect((await read(path, { 'if-none-match': tag })).status).toBe(200);
  });

  it('open nothing else: not what is no rows, not another programme, not a change, and nothing without a token', async () => {
    const of = async (path: string, init: RequestInit = {}) => {
      const answer = await fetch(`${server.baseUrl}${path}`, { ...init, headers: { authorization: `Bearer ${token}`, ...init.headers } });
      return [answer.status, ((await answer.json()) as { message: string }).message];
    };
    expect(await of('/api/brindlemere/cycles')).toEqual([403, 'An address for data opens rows, and nothing else.']);
    expect(await of('/api/elsewhere/extracts/turns')).toEqual([404, 'There is no programme “elsewhere” at this address.']);
    const changing = { method: 'POST', body: '{}', headers: { 'content-type': 'application/json', origin: server.baseUrl } };
    expect((await of('/api/brindlemere/data-addresses', changing))[0]).toBe(401);
    for (const format of ['json', 'csv', 'jsonl', 'xlsx'])
      expect(await of(`${ROWS}/turns?cycle=NOPE&format=${format}`)).toEqual([404, 'There is no cycle NOPE.']);
    expect(await of(`${ROWS}/defects?tag=x&format=json`)).toEqual([
      400,
      'Defects are not filtered by tag; by cycle, scope, team and since they are.',
    ]);
    expect((await of(`${ROWS}/turns?format=pdf`))[0]).toBe(400);
    // Dropped, it would be all turns, taken for a team's.
    expect(await of(`${ROWS}/turns?tema=Billing`)).toEqual([400, 'Rows are not narrowed by tema.']);
    for (const path of ['/turns', '/turns?token=', '/turns?token=another', '/turns?token=kbd_x', `/turns?token=${token.slice(0, -1)}`])
      expect([path, (await read(path)).status]).toEqual([path, 401]);
  });

  it(`go out as they are read: ${MANY.toLocaleString('en')} of them, left lying, take the server no more than ${MOST_LYING_MB} MB`, async () => {
    await client.query(`insert into step_results (programme_id, attempt_id, step_index, outcome, note, recorded_at, word_id, by_id)
      select a.programme_id, a.id, g, 'passed', 'said at step ' || g, now(), gen_random_uuid(), a.person_id
      from (select * from attempts order by id limit 1) a, generate_series(1000, ${999 + MANY}) g`);
    await client.query('vacuum analyze step_results');
    const getMB = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))?.[1]) / 1_024;
    // Its threads have begun before, so that what they take by themselves is not counted.
    await (await read(`/steps?cycle=INT-1&token=${token}`)).text();
    const before = getMB();
    let [lines, bytes] = [0, 0];
    // Not by fetch, which takes what comes whether or not it is read.
    const [answer] = (await once(get(`${server.baseUrl}${ROWS}/steps?token=${token}`), 'response')) as [IncomingMessage];
    await sleep(LYING_MS);
    const lying = getMB() - before;
    for await (const chunk of answer as AsyncIterable<Buffer>) {
      bytes += chunk.length;
      for (const byte of chunk) if (byte === 10) lines += 1;
    }
    expect(lines).toBeGreaterThan(MANY);
    expect(bytes).toBeGreaterThan(MANY * 200);
    expect(lying).toBeLessThan(MOST_LYING_MB);
  });

  it('are refused to a fourth download of one person at once, and let go of when one is left', async () => {
    const leave = new AbortController();
    const path = `${server.baseUrl}${ROWS}/steps?token=${token}`;
    // Begun, and not read to the end.
    for (let begun = 0; begun < 3; begun += 1) expect((await fetch(path, { signal: leave.signal })).status).toBe(200);
    const fourth = await read(`/defects?token=${token}`);
    expect([fourth.status, ((await fourth.json()) as { message: string }).message]).toEqual([
      429,
      '3 downloads are under way already. Begin this one when another is through.',
    ]);
    leave.abort();
    await expect.poll(async () => (await read(`/defects?token=${token}`)).status, { timeout: 10_000 }).toBe(200);
  });

  it('break off where the address is withdrawn meanwhile: it is said, and what came is not taken for all', async () => {
    const answer = await read(`/steps?token=${token}`, { 'accept-encoding': 'identity' });
    const reader = answer.body?.getReader();
    await reader?.read();
    await lead.go('/brindlemere/me');
    await lead.press('Withdraw Steering sheet');
    await lead.page.waitForFunction(() => !document.body.innerText.includes('Steering sheet'));
    let [tail, failed] = ['', false];
    try {
      for (let part = await reader?.read(); part && !part.done; part = await reader?.read())
        tail = (tail + Buffer.from(part.value).toString()).slice(-300);
    } catch {
      failed = true;
    }
    expect([tail.slice(tail.lastIndexOf('"Broken off')).split('\n')[0], failed]).toEqual([
      '"Broken off: This address was withdrawn, or its time is over. Ask whoever gave it to you for another."\r',
      true,
    ]);
    expect((await read(`/turns?token=${token}`)).status).toBe(401);
  });
});
