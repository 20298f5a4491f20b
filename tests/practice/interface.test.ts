import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { askDoor } from '@kindred-baton/doors/ask-door';
import type { OpenDoor } from '@kindred-baton/doors/door';
import { readerOf } from '@kindred-baton/millrace/data/reader';
import { parseStep } from '@kindred-baton/core/tests/parse-step';
import type { Practice } from '../support/practice.ts';
import { openPractice } from '../support/practice.ts';

const toSteps = (...sentences: readonly string[]) =>
  sentences.map((sentence) => {
    const reading = parseStep(sentence);
    if (!reading.ok) throw new Error(reading.message);
    return reading.step;
  });

describe('behind the screens of the practice application', { timeout: 60_000 }, () => {
  let practice: Practice;
  beforeAll(async () => {
    practice = await openPractice();
  }, 60_000);
  afterAll(() => practice.close());

  const get = (path: string, token = 'practice-rehearsal') =>
    fetch(`${practice.address}/rehearsal${path}`, { headers: { authorization: `Bearer ${token}` } });

  it('has an interface for each application, which says what it has and asks who comes', async () => {
    const description = (await (await fetch(`${practice.address}/rehearsal/stores/api/openapi.json`)).json()) as {
      readonly openapi: string;
      readonly paths: Readonly<Record<string, unknown>>;
    };
    expect(description.openapi).toBe('3.1.0');
    expect((await get('/stores/api/materials', 'guessed')).status).toBe(401);
    // What is described answers, and what it answers is what is described.
    for (const path of Object.keys(description.paths).filter((one) => !one.includes('{'))) {
      const answer = await get(`/stores/api${path}`);
      expect([path, answer.status]).toEqual([path, 200]);
    }
    expect((await (await get('/stores/api/materials?name=Meter')).json()) as unknown[]).toMatchObject([{ name: 'Meter', price: '64.00' }]);
    expect((await get('/stores/api/bills')).status).toBe(404);
    expect((await get('/stores/api/materials?colour=red')).status).toBe(400);
    expect((await get('/stores/api/materials/MA-0')).status).toBe(404);
  });

  it('lets a test ask, look at what comes, keep it, wait for it, and say what is not so', async () => {
    const steps = toSteps(
      'Ask "GET /materials" in "Stores"',
      'See "rows" at least "5"',
      'See "number" all different',
      'Keep "$[?@.name==\'Meter\'].number" as "Material no."',
      'Ask "GET /materials/{Material no.}" in "Stores". You should see: “Meter”',
      'See "price" showing "64.00". You should see: “Meter”, as a label',
      'Ask "select stock from materials where number = {Material no.}" in "Books", keep as "Stock"',
      'Ask "GET /materials/none" in "Stores"',
      'See "status code" showing "404"',
      'Ask "GET /materials/{Material no.}" in "Stores"',
      'See "stock" not showing {Stock}, within 1 seconds',
    );
    const { outcome, steps: done, kept } = await practice.run(steps, {}, { doors: doors() });
    expect(done.map(({ note }) => note).filter((note) => note !== '')).toEqual([]);
    expect(kept).toEqual({ 'Material no.': expect.stringMatching(/^MA-\d{4}$/) as string, Stock: '400' });
    expect([outcome, done.length, done.at(-1)?.actual]).toEqual(['failed', 11, '400']);
  });

  it.each([
    ['Ask "GET /materials" in "Nowhere"', 'blocked', 'There is no door “Nowhere” in this environment. Set are “Stores”, “Books”.'],
    ['Ask "GET /materials?name=Meter" in "Stores"\nSee "price". You should see: “Pump”', 'failed', '“Pump” is not in the answer.'],
    ['Ask "GET /nothing" in "Stores"', 'failed', 'Status code 404'],
    ['Ask "delete from materials" in "Books"', 'blocked', '“Books” gives this user no right|would be changed by the statement'],
    ['Ask "select pg_sleep(30)" in "Books"', 'blocked', '“Books” did not answer within 10 seconds.'],
    ['Ask "GET /materials/{Lost no.}" in "Stores"', 'blocked', 'There is no value for Lost no..'],
    ['Ask "the materials" in "Stores"', 'blocked', 'This door is an interface: say a method and a path'],
  ])('%s: %s', async (sentence, outcome, message) => {
    const report = await practice.run(toSteps(...sentence.split('\n')), {}, { doors: doors() });
    const step = report.steps.at(-1);
    expect(report.outcome).toBe(outcome);
    expect(`${step?.note} ${step?.actual}`).toMatch(new RegExp(message.split('|').map(escape).join('|')));
  });

  it('lets its reader read the environment and change nothing, whatever transaction it asks in', async () => {
    const books = doors()[1]!;
    const ask = (statement: string) => askDoor(books, { kind: 'database', statement, parameters: [] });
    expect((await ask('select count(*) as n from materials')).body).toEqual([{ n: 7 }]);
    await expect(ask('select * from integration.materials')).rejects.toThrow('gives this user no right');
    await expect(ask('update materials set stock = 0')).rejects.toThrow();
    expect((await ask('select sum(stock)::int as n from materials')).body).toEqual([{ n: 2_800 }]);
  });

  function doors(): OpenDoor[] {
    const { host, pathname } = new URL(practice.databaseUrl);
    const { user, password } = readerOf('rehearsal');
    const stores = {
      address: `${practice.address}/rehearsal/stores/api`,
      signIn: 'bearer',
      user: '',
      secret: 'practice-rehearsal',
    } as const;
    return [
      { name: 'Stores', kind: 'interface', ...stores },
      { name: 'Books', kind: 'database', address: `postgresql://${host}${pathname}`, signIn: 'none', user, secret: password },
    ];
  }
});

const escape = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
