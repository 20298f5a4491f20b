import type { Acceptance } from '@kindred-baton/contracts/cycles/acceptance';
import type { CycleDetail, RunList } from '@kindred-baton/contracts/cycles/cycle';
import type { PackedPlan, PlanTurn } from '@kindred-baton/contracts/cycles/plan';
import { unpackRows } from '@kindred-baton/core/tables/pack-rows';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestBrowser, Visitor } from '../support/browser.ts';
import { launchBrowser, openAs } from '../support/browser.ts';
import { copyTemplate } from '../support/test-store.ts';
import type { WebServer } from '../support/web-server.ts';
import { startWebServer } from '../support/web-server.ts';

/** The lead plans, staffs and steers; an owner signs. A server of its own, since it changes what everybody looks at. */
describe('a cycle in the lead’s hands', () => {
  let chromium: TestBrowser;
  let server: WebServer;
  let lead: Visitor;
  beforeAll(async () => {
    chromium = await launchBrowser();
    server = await startWebServer(await copyTemplate('demo'));
    lead = await openAs(chromium.browser, server.baseUrl, 'Lea Marsh');
  });
  afterAll(async () => {
    await chromium.close();
    await server.stop();
  });

  const plan = async () => {
    const { turns, ...view } = await lead.json<PackedPlan>('/api/brindlemere/cycles/ACC-2/plan');
    return { ...view, turns: unpackRows<PlanTurn>(turns) };
  };
  const cycle = () => lead.json<CycleDetail>('/api/brindlemere/cycles/ACC-2');
  const runs = async () => {
    const { pages } = await lead.json<RunList>('/api/brindlemere/cycles/ACC-2/runs');
    const all = Array.from({ length: pages }, (_, at) => lead.json<RunList>(`/api/brindlemere/cycles/ACC-2/runs?page=${at + 1}`));
    return (await Promise.all(all)).flatMap((page) => page.runs);
  };
  const tick = (label: string) => lead.press(label, 'checkbox');

  it('will not fit: it says by how much, tries what helps without keeping it, and drops it again', async () => {
    await lead.go('/brindlemere/cycles/ACC-2');
    await lead.sees(/days? late/);
    await lead.sees('Busiest lane');
    await lead.page.waitForSelector('button[aria-label^="Try:"]');
    const before = await plan();
    await lead.page.locator('button[aria-label^="Try:"]').click();
    await lead.sees('You are trying');
    await lead.sees(/It (just )?fits/);
    await lead.press('Drop it');
    await lead.sees(/days? late/);
    expect(await plan()).toMatchObject({ people: before.people, turns: before.turns });
  });

  it('gives turns of a lane to somebody by keys', async () => {
    await lead.press('Billing 2 testers, 1 h a day').catch(() => lead.page.locator('button[aria-expanded="false"]').click());
    await lead.go('/brindlemere/cycles/ACC-2?lane=Billing');
    await lead.sees(/\d+ turns left/);
    const boxes = 'section[aria-label="Turns of the lane"] tbody input:not([disabled])';
    await lead.page.waitForSelector(boxes);
    await lead.page.focus(boxes);
    await lead.page.keyboard.press('Space');
    await lead.page.keyboard.press('ArrowDown');
    await lead.page.keyboard.press('Space');
    await lead.sees('2 chosen');
    const count = async () => (await plan()).turns.filter(({ person }) => person === una).length;
    const una = (await plan()).people.find(({ name }) => name === 'Una Petrel')?.id;
    const karim = (await plan()).people.find(({ name }) => name === 'Karim Bol')?.id;
    const before = await count();
    await lead.press('Give 2 to');
    await lead.press('Karim Bol', 'menuitem');
    await lead.sees(/turns? changed\./);
    expect(karim).toBeDefined();
    expect(await count()).toBeLessThanOrEqual(before);
  });

  it('sets due days by the plan', async () => {
    await lead.press('Set due days by it');
    const hasLate = async () => {
      const { turns, endsOn } = await plan();
      return turns.some(({ dueOn, status }) => status === 'waiting' && (dueOn ?? '') > endsOn);
    };
    await expect.poll(hasLate, { interval: 300, timeout: 20_000 }).toBe(true);
  });

  it('takes a run out of the open scope: what that sets aside is said first, and why is kept', async () => {
    const waits = (await runs()).find(({ leftTo, turns }) => leftTo === null && turns.some(({ status }) => status === 'waiting'))?.number;
    await lead.go('/brindlemere/cycles/ACC-2?view=scope');
    await tick(`Choose run ${waits}`);
    await lead.press('Take 1 run out');
    await lead.sees(/turns? that nobody has tried/);
    await lead.type('Why', 'That tariff comes next year');
    await lead.press('Take out');
    await lead.sees('Scope and rules changed');
    await lead.sees('That tariff comes next year');
    expect((await runs()).find(({ number }) => number === waits)).toMatchObject({ leftTo: 'taken out' });
  });

  it('changes a rule of the open cycle only with a reason', async () => {
    await lead.go('/brindlemere/cycles/ACC-2?view=rules');
    await tick('words on what was seen');
    await lead.press('Keep');
    await lead.sees('say why it is changed');
    await lead.type('Why it is changed', 'Fixers asked for it');
    await lead.press('Keep');
    await lead.sees('Kept.');
    expect((await cycle()).rules.failure).toEqual(['words']);
  });

  it('plans one from what failed in a former cycle, with the next code of the scheme', async () => {
    await lead.go('/brindlemere/cycles/new');
    await lead.page.waitForSelector('select[aria-label="Take from a former cycle"]');
    await lead.page.select('select[aria-label="Take from a former cycle"]', 'INT-1|failed');
    await lead.sees(/\d+ runs?, \d+ turns/);
    await lead.type('Name', 'What failed in round 1');
    await Promise.all([lead.page.waitForNavigation(), lead.press('Plan it')]);
    await lead.settle();
    await lead.sees('What failed in round 1');
    expect(lead.page.url()).toMatch(/cycles\/ACC-\d$/);
  });

  it('is signed by the owner alone, with reservations and the figures frozen', async () => {
    await lead.go('/brindlemere/cycles/ACC-2?view=acceptance&node=NS');
    await lead.sees('Greta Holm decides on this process.');
    const greta = await openAs(chromium.browser, server.baseUrl, 'Greta Holm');
    // She lands where something is hers to decide, and what decides is in sight.
    await greta.go('/');
    expect(greta.page.url()).toContain('/brindlemere/cycles/ACC-2?view=acceptance');
    await greta.sees('yours to decide');
    expect(await greta.page.$eval('a[href="#decide"]', (link) => link.getBoundingClientRect().bottom < innerHeight)).toBe(true);
    await greta.go('/brindlemere/cycles/ACC-2?view=acceptance&node=NS');
    await greta.sees('yours to decide');
    await greta.page.locator('::-p-aria([name="Accept with reservations"][role="radio"])').click();
    await greta.type('Reservation 1', 'Charges above ten metres');
    await greta.press('Accept with reservations New supply');
    await greta.sees('The figures are kept as they stand.');
    const { nodes } = await greta.json<Acceptance>('/api/brindlemere/cycles/ACC-2/acceptance');
    expect(nodes.find(({ code }) => code === 'NS')?.signOff).toMatchObject({ decision: 'accepted with reservations', hasMoved: false });
    // What the owner decided reaches the lead's open page by itself.
    await lead.sees('Charges above ten metres');
    expect(greta.errors).toEqual([]);
  });

  it.each(['report?format=pdf', 'report?format=xlsx', 'report?format=sheet&node=NS'])('is taken away as %s', async (what) => {
    const size = await lead.page.evaluate(async (to) => {
      const response = await fetch(to);
      return response.ok ? (await response.arrayBuffer()).byteLength : response.status;
    }, `/api/brindlemere/cycles/ACC-2/${what}`);
    expect(size).toBeGreaterThan(5_000);
  });

  it('closes only when every run that is not through has a place to go', async () => {
    await lead.go('/brindlemere/cycles/ACC-2');
    await lead.press('Begin closing');
    await lead.page.locator('[role=dialog] .button-primary').click();
    await lead.sees('is closing now');
    await lead.press('Close it');
    await lead.sees(/runs are not through: say where each goes/);
    await lead.press('Drop all');
    expect(await lead.page.$eval('[role=dialog] .button-primary', (button) => (button as HTMLButtonElement).disabled)).toBe(true);
    await lead.press('All to the next cycle');
    await lead.page.locator('[role=dialog] .button-primary').click();
    await lead.sees('is closed now');
    expect((await runs()).filter(({ leftTo }) => leftTo === 'next cycle').length).toBeGreaterThan(20);
  });

  it('leaves no error in the browser', () => expect(lead.errors.filter((error) => !error.includes('400'))).toEqual([]));
});
