import { sql } from 'drizzle-orm';
import { afterAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import { createStore } from '../database.ts';
import { sumCounts } from '@kindred-baton/core/progress/tally';
import { getDefect, listDefects } from '../defects/get-defects.ts';
import { findAnything } from '../find/find-anything.ts';
import { getMap } from '../map/get-map.ts';
import { getNode } from '../map/get-node.ts';
import { getGuide } from '../turns/get-guide.ts';
import { checkRuns } from '../runs/check-runs.ts';
import { createBigContents } from './big/big-contents.ts';
import type { BigSize } from './big/big-size.ts';
import { BIG } from './big/big-size.ts';
import { getConnectionCents } from './charges.ts';
import { seedDemo } from './seed-demo.ts';

describe('the demo programme', () => {
  const open: TestStore[] = [];
  afterAll(async () => {
    for (const db of open) await db.drop();
  });

  const lay = async (now: string, size?: BigSize) => {
    const db = await createTestStore('empty');
    open.push(db);
    const store = createStore({ url: db.url, now: () => new Date(now) });
    const isLaid = await seedDemo(store, 'no hash', size);
    const again = await seedDemo(store, 'no hash', size);
    const digest = await store.db.execute<{ digest: string }>(sql`
      select md5((select string_agg(id::text || status, ',' order by id) from turns) || (select string_agg(id::text || kept::text, ',' order by id) from attempts)) as digest`);
    const contradictions = await checkRuns(store.db);
    await store.pool.end();
    return { isLaid, again, digest: digest.rows[0]?.digest, contradictions };
  };

  it('comes out the same each time, and is laid only once', async () => {
    const first = await lay('2026-11-25T11:00:00Z');
    expect(first).toMatchObject({ isLaid: true, again: false, contradictions: [] });
    expect(await lay('2026-11-25T11:00:00Z')).toEqual(first);
  });

  it('at another size comes out the same each time too, and contradicts itself nowhere', async () => {
    const size = {
      ...{ tests: 350, scenarios: 101, testers: 24, requirements: 65 },
      ...{ runs: { closed: 12, open: 150, planned: 10 }, closedDefects: 5 },
    };
    const first = await lay('2026-11-25T11:00:00Z', size);
    expect(first).toMatchObject({ isLaid: true, again: false, contradictions: [] });
    expect(await lay('2026-11-25T11:00:00Z', size)).toEqual(first);
  });

  it('as a big trust has as much as it says, each with a code of its own', () => {
    const { nodes, tests, scenarios, people, teams, requirements } = createBigContents(BIG);
    expect([nodes.length, tests.length, scenarios.length, people.length, teams.length, requirements.length]).toEqual([
      ...[5_064, BIG.tests, BIG.scenarios, 200, 12, BIG.requirements],
    ]);
    for (const coded of [nodes, tests, scenarios]) expect(new Set(coded.map(({ code }) => code)).size).toBe(coded.length);
    const known = new Set(tests.map(({ code }) => code));
    const used = scenarios.flatMap(({ legs }) => legs.match(/[A-Z]{3}-\d\d-\d{3}/g) ?? []);
    expect(used.filter((code) => !known.has(code))).toEqual([]);
    expect(Math.max(...scenarios.map(({ legs }) => legs.split(' ').length))).toBe(60);
  });

  it('is laid around today on a Sunday and at midnight too', async () => {
    expect((await lay('2026-11-29T00:00:30Z')).isLaid).toBe(true);
    expect((await lay('2027-01-01T23:59:00Z')).isLaid).toBe(true);
  });

  // Source: the demo's own page (design/demo): band B with 14.5 m costs 512.50.
  it('works charges out as its page says', () => {
    expect([getConnectionCents('B', 14.5), getConnectionCents('A', 10), getConnectionCents('C', 120)]).toEqual([51_250, 24_000, 586_500]);
  });

  it('tells one story: the steps of each defect fail where its words say, in a run in which it shows', async () => {
    const db = await createTestStore('demo');
    open.push(db);
    const lead = await db.actorOf('Lea Marsh');
    const { defects } = await db.ask(lead, listDefects, undefined);
    const told = await Promise.all(defects.map(({ code }) => db.ask(lead, getDefect, code)));
    for (const { steps } of told) expect(steps.filter((step) => step.endsWith('(failed)'))).toEqual(steps.slice(-1));
    const failedAt = (title: string) => told.find((defect) => defect.title === title)?.steps.at(-1) ?? '';
    expect(failedAt('Quote is priced in the wrong band')).toMatch(/See "Connection charge" showing "/);
    expect(failedAt('Farms are billed at the trade tariff')).toMatch(/See "Tariff" showing "Farm"/);
    const wrongBand = told.find(({ title }) => title === 'Quote is priced in the wrong band');
    expect(wrongBand?.steps.find((step) => step.includes('"Customer band"'))).toMatch(/with "[AB]"/);
    expect(told.find(({ title }) => title === 'Damage charge leaves half hours out')?.steps.join()).toMatch(/[.]5 hours/);
    // What was written at the failed steps is what the defect says.
    for (const defect of told)
      for (const { id } of defect.turns) {
        const { attempts } = await db.ask(lead, getGuide, id);
        const notes = attempts.flatMap(({ results }) => results.filter(({ outcome }) => outcome === 'failed').map(({ note }) => note));
        if (defect.status !== 'closed') expect([defect.code, notes]).toEqual([defect.code, notes.map(() => defect.seen)]);
      }
  });

  it('has marks of tests and bars of nodes that agree: the same turns of one cycle', async () => {
    const db = await createTestStore('demo');
    open.push(db);
    const lead = await db.actorOf('Lea Marsh');
    const { nodes } = await db.ask(lead, getMap, undefined);
    let compared = 0;
    for (const { code } of nodes) {
      const node = await db.ask(lead, getNode, code);
      const cycle = new Set(node.tests.flatMap(({ standing }) => standing?.cycle ?? []));
      if (cycle.size !== 1 || !cycle.has('ACC-2')) continue;
      compared += 1;
      const sum = (name: 'turns' | 'passed') => node.tests.reduce((total, { standing }) => total + (standing?.[name] ?? 0), 0);
      expect([code, sum('turns'), sum('passed')]).toEqual([code, sumCounts(node.outcomes), node.outcomes.passed]);
    }
    expect(compared).toBeGreaterThan(20);
  });

  it('is found by code, by words and by what begins with them first; signs of patterns are plain text', async () => {
    const db = await createTestStore('demo');
    open.push(db);
    const lead = await db.actorOf('Lea Marsh');
    const find = async (words: string) => (await db.ask(lead, findAnything, words)).found;
    expect((await find('BIL-01'))[0]).toMatchObject({ kind: 'test', code: 'BIL-01', path: '/tests/BIL-01' });
    expect((await find('price quote')).map(({ kind }) => kind)).toEqual(expect.arrayContaining(['node', 'test', 'turn']));
    expect(await find('100%_\\')).toEqual([]);
    expect(await find('')).toEqual([]);
  });
});
