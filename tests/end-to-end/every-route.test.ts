import { randomUUID } from 'node:crypto';
import type { Route } from '@kindred-baton/contracts/route';
import { ROUTES } from '@kindred-baton/contracts/routes';
import type { Role } from '@kindred-baton/core/programmes/roles';
import { hasRight } from '@kindred-baton/core/programmes/roles';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DEMO_PASSWORD } from '../support/demo-password.ts';
import { sampleInput } from '../support/sample-input.ts';
import { copyTemplate } from '../support/test-store.ts';
import type { WebServer } from '../support/web-server.ts';
import { startWebServer } from '../support/web-server.ts';

const PEOPLE: readonly (readonly [string, readonly Role[]])[] = [
  ['lea.marsh', ['lead']],
  ['edda.quill', ['author']],
  ['ines.varga', ['tester']],
  ['cora.vane', ['observer']],
];
const ROUTE_LIST = Object.entries<Route>(ROUTES);

const slice = { name: 'All', view: 'where', cut: {}, isShared: false };
const odds = { even: '2026-12-01', late: null, inTime: 0.5 };
const decision = { cycle: 'ACC-2', kind: 'stay', words: 'As it is', why: 'So', before: odds, after: odds };
const board = { name: 'All', isShared: false, tiles: [] };

/** Inputs of which one field depends on another; every other is made from its schema. */
const team = { name: 'Team', colour: '#112233', hoursPerDay: 2, workingDays: [1], holidays: [], holidayRegion: '' };
const INPUTS: Readonly<Record<string, (node: string) => unknown>> = {
  changeProgramme: () => ({ name: 'Changed' }),
  createProgramme: () => ({ key: 'third', name: 'Third', timeZone: 'Europe/London', levels: ['Stream', 'Process'] }),
  listHolidays: () => ({ region: 'GB', from: '2026-01-01', to: '2026-12-31' }),
  ...{ addTeam: () => team, saveTeam: () => team },
  editMap: (node) => ({ edits: [{ kind: 'change', code: node, change: { name: 'Changed' } }] }),
  changeLevels: () => ({ levels: ['One', 'Two'], codeScheme: ['AA', '{parent}-9'] }),
  changeCycle: () => ({ name: 'Changed' }),
  ...{ listTurns: () => ({ cycle: 'ACC-2' }), getRows: () => ({ cycle: 'ACC-2' }) },
  listDefects: () => ({ cycle: 'ACC-2', happened: 'found', on: '2026-11-24' }),
  listRuns: () => ({ numbers: '1,2' }),
  ...{
    keepSlice: () => slice,
    changeSlice: () => ({ name: 'All', isShared: false, shows: { view: 'where', cut: {} } }),
    makeBoard: () => board,
    changeBoard: () => ({ ...board, version: 1 }),
  },
  keepDecision: () => ({ ...decision, id: randomUUID() }),
  getStepTries: () => ({ cycle: 'ACC-2', test: 'BIL-01', version: 1, index: 5 }),
  // Nothing, as gzip.
  keepCapture: () => ({ gzip: 'H4sIAAAAAAAAAwMAAAAAAAAAAAA=' }),
};

/** What of a made input has to be otherwise, so that it is read. */
const FITTING: Readonly<Record<string, object>> = {
  addDoor: { kind: 'interface', address: 'https://door.example/', signIn: 'none' },
  saveDoor: { kind: 'interface', address: 'https://door.example/', signIn: 'none' },
};

const fit = (name: string, made: unknown) => (FITTING[name] ? { ...(made as object), ...FITTING[name] } : made);

interface Asked {
  readonly programme: string;
  readonly params: (name: string, route: string) => string;
  readonly input: unknown;
}

/** Made from the table of routes: each is asked by each role, and with everything that belongs to another programme. */
describe('every route', () => {
  let server: WebServer;
  let database: pg.Client;
  const cookies = new Map<string, string>();
  beforeAll(async () => {
    const url = await copyTemplate('demo');
    server = await startWebServer(url);
    database = new pg.Client({ connectionString: url });
    await database.connect();
    for (const [name] of PEOPLE) cookies.set(name, await signIn(name));
  });
  afterAll(async () => {
    await database.end();
    await server.stop();
  });

  async function signIn(name: string): Promise<string> {
    const answer = await fetch(`${server.baseUrl}/api/auth/sign-in/email`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: server.baseUrl },
      body: JSON.stringify({ email: `${name}@brindlemere.example`, password: DEMO_PASSWORD }),
    });
    expect(answer.status).toBe(200);
    return answer.headers
      .getSetCookie()
      .map((line) => line.split(';')[0])
      .join('; ');
  }

  async function ask(name: string, [routeName, route]: [string, Route], { programme, params, input }: Asked) {
    const path = route.path.replace(/:(\w+)/g, (_, param: string) => encodeURIComponent(params(param, routeName)));
    const isRead = route.method === 'GET';
    const query = isRead && input ? `?${new URLSearchParams(Object.entries(input).map(([key, value]) => [key, String(value)]))}` : '';
    const form = new FormData();
    form.set('file', new File(['Code,Name\nX-1,One\n'], 'list.csv'));
    const stop = new AbortController();
    const answer = await fetch(`${server.baseUrl}/api/${programme}${path}${query}`, {
      method: route.method,
      signal: stop.signal,
      headers: {
        cookie: cookies.get(name) ?? '',
        origin: server.baseUrl,
        ...(isRead || route.takes ? {} : { 'content-type': 'application/json' }),
      },
      ...(isRead ? {} : { body: route.takes ? form : JSON.stringify(input ?? {}) }),
    });
    const isStream = answer.headers.get('content-type')?.includes('event-stream');
    const text = isStream ? '' : await answer.text();
    if (isStream) stop.abort();
    return { status: answer.status, text };
  }

  const nothing = (param: string, route: string) =>
    (ROUTES as Readonly<Record<string, Route>>)[route]?.params?.[param] ? (param === 'step' ? '0' : randomUUID()) : 'NOPE-1';

  it.each(PEOPLE)('of %s answers as her rights say, and never breaks', async (name, roles) => {
    for (const entry of ROUTE_LIST) {
      const { status, text } = await ask(name, entry, { programme: 'brindlemere', params: nothing, input: undefined });
      expect([entry[0], status === 403 && !/somebody else|own lane/.test(text)]).toEqual([entry[0], !hasRight(roles, entry[1].right)]);
      expect([entry[0], status < 500, text.slice(0, 200)]).toEqual([entry[0], true, text.slice(0, 200)]);
    }
  });

  it('is not found for a programme that she does not belong to, and not answered without a session', async () => {
    for (const entry of ROUTE_LIST) {
      expect([entry[0], (await ask('ines.varga', entry, { programme: 'elsewhere', params: nothing, input: undefined })).status]).toEqual([
        entry[0],
        404,
      ]);
      expect([entry[0], (await ask('nobody', entry, { programme: 'brindlemere', params: nothing, input: undefined })).status]).toEqual([
        entry[0],
        401,
      ]);
    }
  });

  /** Everything that the demo has, as one text for each table; what changes while it is only looked at is left out. */
  async function digest(): Promise<Readonly<Record<string, string>>> {
    const { rows } = await database.query<{ name: string }>(
      `select table_name as name from information_schema.columns where table_schema = 'public' and column_name = 'programme_id' order by 1`,
    );
    const found: Record<string, string> = {};
    for (const { name } of rows) {
      const { rows: sums } = await database.query<{ sum: string | null }>(
        `select md5(string_agg(row::text, '|' order by row::text)) as sum from "${name}" row
         where programme_id = (select id from programmes where key = 'brindlemere')`,
      );
      found[name] = sums[0]?.sum ?? '';
    }
    return found;
  }

  it('with ids and codes of another programme finds nothing, tells nothing and changes nothing', async () => {
    const founding = { key: 'other', name: 'Other', timeZone: 'Europe/London', levels: ['Stream', 'Process', 'Activity'] };
    const made = await ask('lea.marsh', ['createProgramme', ROUTES.createProgramme], {
      programme: 'brindlemere',
      params: nothing,
      input: founding,
    });
    expect(made.status).toBe(200);
    const samples = await loadSamples();
    const foreign = await loadForeignIds();
    const before = await digest();
    const toInput = ([name, { input }]: [string, Route]) =>
      INPUTS[name]?.(samples.textOf('node', false)) ?? (input && fit(name, sampleInput(input, samples.textOf)));
    const unread = ROUTE_LIST.filter((entry) => entry[1].input && !entry[1].input.safeParse(toInput(entry)).success);
    // What is refused for its shape never gets as far as another's rows: nearly all must be read.
    expect(unread.map(([name]) => name)).toEqual([]);
    for (const entry of ROUTE_LIST) {
      const [name, route] = entry;
      const asked = { programme: 'other', params: samples.paramOf, input: toInput(entry) };
      const { status, text } = await ask('lea.marsh', entry, asked);
      expect([name, status < 500, text.slice(0, 300)]).toEqual([name, true, text.slice(0, 300)]);
      if (route.path.includes(':')) expect([name, status >= 400, text.slice(0, 300)]).toEqual([name, true, text.slice(0, 300)]);
      const told = (text.match(/[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g) ?? []).filter((id) => foreign.has(id));
      expect([name, told]).toEqual([name, []]);
    }
    expect(await digest()).toEqual(before);
  });

  async function first(query: string): Promise<string> {
    const { rows } = await database.query<{ value: string }>(query);
    return rows[0]?.value ?? randomUUID();
  }

  /** What belongs to the demo, by the names that addresses and fields have for it. */
  async function loadSamples() {
    const own = `programme_id = (select id from programmes where key = 'brindlemere')`;
    const id = (table: string, column = 'id') => first(`select ${column} as value from ${table} where ${own} order by 1 limit 1`);
    const code = (table: string) => id(table, 'code');
    const ids: Record<string, string> = {
      ...{ turn: await id('turns'), attempt: await id('attempts'), run: await id('runs'), team: await id('teams') },
      ...{ application: await id('applications'), environment: await id('environments'), persona: await id('personas') },
      ...{
        person: await id('members', 'person_id'),
        scenario: await id('scenarios'),
        leg: await id('legs'),
        slice: await id('slices'),
        board: await id('boards'),
        row: await id('scenario_rows'),
      },
      ...{ defect: randomUUID(), evidence: randomUUID(), job: randomUUID(), invitation: randomUUID() },
    };
    const codes = {
      ...{ tests: await code('tests'), scenarios: await code('scenarios'), cycles: await code('cycles'), defects: await code('defects') },
      ...{ map: await code('nodes'), requirements: await code('requirements') },
    } as Readonly<Record<string, string>>;
    const singular: Readonly<Record<string, string>> = {
      test: 'tests',
      scenario: 'scenarios',
      cycle: 'cycles',
      node: 'map',
      nodes: 'map',
      tests: 'tests',
      to: 'map',
      by: 'tests',
      requirement: 'requirements',
    };
    const paramOf = (param: string, routeName: string) => {
      if (param === 'step') return '0';
      const { path } = (ROUTES as Readonly<Record<string, Route>>)[routeName] ?? { path: '' };
      if (param === 'code') return codes[path.split('/')[1] ?? ''] ?? 'NOPE-1';
      if (param === 'id')
        return (
          ids[
            path
              .split('/')[2]
              ?.replace(/people/, 'person')
              .replace(/s$/, '') ?? ''
          ] ?? randomUUID()
        );
      return ids[param] ?? randomUUID();
    };
    const textOf = (field: string, isId: boolean) => {
      const kind = field
        .replace(/Ids?$/, '')
        .replace(/^(owner|assignee|handTo)$/, 'person')
        .replace(/s$/, '');
      if (isId) return ids[kind] ?? randomUUID();
      if (/On$|^from$|^until$|Day$/.test(field)) return '2026-11-02';
      if (field === 'email') return 'una.north@north.example';
      if (field === 'timeZone') return 'Europe/London';
      return codes[singular[field] ?? ''] ?? 'Text-1';
    };
    return { paramOf, textOf };
  }

  /** Every id of a row of the demo, but for Lea herself. */
  async function loadForeignIds(): Promise<ReadonlySet<string>> {
    const tables = [
      'turns',
      'runs',
      'attempts',
      'tests',
      'test_versions',
      'scenarios',
      'legs',
      'cycles',
      'defects',
      'nodes',
      'requirements',
      'teams',
      'applications',
      'environments',
      'personas',
    ];
    const all = await Promise.all(
      tables.map((table) =>
        database.query<{ id: string }>(
          `select id from ${table} where programme_id = (select id from programmes where key = 'brindlemere')`,
        ),
      ),
    );
    return new Set(all.flatMap(({ rows }) => rows.map(({ id }) => id)));
  }
});
