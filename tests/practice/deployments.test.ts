import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Practice } from '../support/practice.ts';
import { openPractice } from '../support/practice.ts';
import { createTestStore } from '../support/test-store.ts';
import { listDemoCases } from '@kindred-baton/store/demo/list-demo-cases';
import { pointDemo } from '@kindred-baton/store/demo/point-demo';
import { installations } from '@kindred-baton/store/schema/programmes';

describe('deployments of the practice application', { timeout: 60_000 }, () => {
  let practice: Practice;
  beforeAll(async () => {
    practice = await openPractice();
  }, 60_000);
  afterAll(() => practice.close());

  const messageOf = async (answer: Response) => [answer.status, ((await answer.json()) as { message: string }).message];
  const read = async (environment: string) =>
    (await fetch(`${practice.address}/deployments/${environment}`)).json() as Promise<Record<string, unknown>>;

  it('change what they name and nothing else; what they do not know is said', async () => {
    const before = await read('rehearsal');
    expect(before).toMatchObject({ release: '4.1.7', isDown: false, slowMs: 0 });
    await practice.deploy('rehearsal', { slowMs: 5 });
    expect(await read('rehearsal')).toEqual({ ...before, slowMs: 5 });
    expect(await messageOf(await practice.deploy('rehearsal', { release: '9' }))).toEqual([
      400,
      'There is no release 9; there are 4.1.7 and 4.2.',
    ]);
    expect((await messageOf(await practice.deploy('rehearsal', { faults: ['rust'] })))[1]).toMatch(
      /^There is no fault rust; there are band, /,
    );
    expect((await messageOf(await practice.deploy('rehearsal', { slowMs: -1 })))[0]).toBe(400);
    expect((await practice.deploy('elsewhere', {})).status).toBe(404);
    expect(await read('rehearsal')).toEqual({ ...before, slowMs: 5 });
  });

  it('takes the demo’s runs over, once; data laid anew takes them again', async () => {
    const db = await createTestStore('demo');
    const cases = (await listDemoCases(db.store)).get('Rehearsal') ?? [];
    expect(cases.length).toBeGreaterThan(80);
    const send = async (body: unknown) =>
      (
        await fetch(`${practice.address}/take-over/rehearsal`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(body),
        })
      ).json();
    const { taken } = (await send(cases)) as { taken: number };
    expect(taken).toBeGreaterThan(250);
    expect(await send(cases)).toEqual({ taken: 0 });
    await practice.deploy('rehearsal', { dataAnew: true });
    expect(await send(cases)).toEqual({ taken });
    expect(await send('nothing')).toEqual({ message: 'Cases are a list of objects whose values are texts.' });
    await pointDemo(db.store, practice.address);
    const addresses = await db.store.db.select({ address: installations.address }).from(installations);
    expect(addresses.every(({ address }) => address.startsWith(practice.address))).toBe(true);
    await db.drop();
  });

  it('lets nobody in without a sign-in, nobody see what is not hers, and runs no script that is typed', async () => {
    const asked = await fetch(`${practice.address}/rehearsal/billing/quotes`, { redirect: 'manual' });
    expect([asked.status, asked.headers.get('location')]).toEqual([302, '/rehearsal/sign-in?to=%2Frehearsal%2Fbilling%2Fquotes']);
    const entered = await fetch(`${practice.address}/rehearsal/sign-in`, {
      ...{ method: 'POST', redirect: 'manual', headers: { origin: practice.address } },
      body: new URLSearchParams({ user: 'DESK01', password: 'practice-rehearsal' }),
    });
    const cookie = entered.headers.get('set-cookie')?.split(';')[0] ?? '';
    expect((await fetch(`${practice.address}/rehearsal/ledger/receipts`, { headers: { cookie } })).status).toBe(403);
    const page = await fetch(`${practice.address}/rehearsal/customer/applications`, {
      ...{ method: 'POST', headers: { cookie, origin: practice.address } },
      body: new URLSearchParams({
        mode: 'new',
        'f:Customer name': '"><script>alert(1)</script>',
        'press:Save application': 'Save application',
      }),
    });
    expect(await page.text()).not.toContain('<script>alert');
  });
});
