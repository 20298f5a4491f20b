import type { SetUp } from '@kindred-baton/contracts/programmes/programme';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Postbox } from '../../apps/postbox/src/open-postbox.ts';
import { openPostbox } from '../../apps/postbox/src/open-postbox.ts';
import type { TestBrowser, Visitor } from '../support/browser.ts';
import { launchBrowser, openAs } from '../support/browser.ts';
import { copyTemplate } from '../support/test-store.ts';
import type { WebServer } from '../support/web-server.ts';
import { startWebServer } from '../support/web-server.ts';

const WAIT_MS = 20_000;

async function waitUntil<Value>(ask: () => Value | undefined): Promise<Value> {
  const end = Date.now() + WAIT_MS;
  for (;;) {
    const value = ask();
    if (value !== undefined) return value;
    if (Date.now() > end) throw new Error('It did not come.');
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

describe('setting up', () => {
  let chromium: TestBrowser;
  let postbox: Postbox;
  let server: WebServer;
  let lead: Visitor;
  beforeAll(async () => {
    chromium = await launchBrowser();
    postbox = await openPostbox();
    server = await startWebServer(await copyTemplate('demo'), undefined, {
      SMTP_URL: `smtp://127.0.0.1:${postbox.smtpPort}?ignoreTLS=true`,
    });
    lead = await openAs(chromium.browser, server.baseUrl, 'Lea Marsh');
  });
  afterAll(async () => {
    await chromium.close();
    await server.stop();
    await postbox.close();
  });

  const setUp = (key = 'brindlemere') => lead.json<SetUp>(`/api/${key}/set-up`);

  it('invites a list by mail; who is invited chooses a password and is in', async () => {
    await lead.go('/brindlemere/set-up?view=people');
    await lead.press('Invite people');
    await lead.type('Names and mail addresses, a line each', 'Odd Rune <odd.rune@brindlemere.example>\tBilling');
    await lead.press('Invite 1 person');
    await lead.sees('Invited, not here yet');
    const letter = await waitUntil(() => postbox.mails.find(({ to }) => to.includes('odd.rune@brindlemere.example')));
    const path = /\/invitation\/\S+/.exec(letter.text)?.[0] ?? '';
    const page = await (await chromium.browser.createBrowserContext()).newPage();
    await page.goto(server.baseUrl + path);
    await page.waitForSelector('input[name=password]');
    await page.waitForFunction(() => !document.querySelector('astro-island[ssr]'));
    await page.type('input[name=password]', 'a long password');
    await Promise.all([page.waitForNavigation(), page.locator('button[type=submit]').click()]);
    await page.waitForFunction(() => document.body.innerText.includes('Nothing is with you'));
    await page.goto(server.baseUrl + path);
    await page.waitForFunction(() => document.body.innerText.includes('This invitation was used already'));
    const { people, teams } = await setUp();
    const odd = people.find(({ name }) => name === 'Odd Rune');
    expect(odd?.teams.map(({ id }) => teams.find((team) => team.id === id)?.name)).toEqual(['Billing']);
  });

  it('helps whoever forgot her password: a letter whose link works once; whoever administers sends another', async () => {
    const page = await (await chromium.browser.createBrowserContext()).newPage();
    const awake = () => page.waitForFunction(() => !document.querySelector('astro-island[ssr]'));
    const says = (text: string) => page.waitForFunction((wanted) => document.body.innerText.includes(wanted), {}, text);
    const letters = () =>
      postbox.mails.filter(({ to, text }) => to.includes('cora.vane@brindlemere.example') && text.includes('/password/'));
    await page.goto(`${server.baseUrl}/sign-in`);
    await awake();
    await Promise.all([page.waitForNavigation(), page.locator('a[href="/password"]').click()]);
    await awake();
    for (const email of ['nobody@brindlemere.example', 'cora.vane@brindlemere.example']) {
      await page.goto(`${server.baseUrl}/password`);
      await awake();
      await page.type('input[name=email]', email);
      await page.locator('button[type=submit]').click();
      // The same words, whether there is such an account or not.
      await says(`If ${email} is the address of an account`);
    }
    const letter = await waitUntil(() => letters()[0]);
    expect(postbox.mails.some(({ to }) => to.includes('nobody@brindlemere.example'))).toBe(false);
    const path = /\/password\/\S+/.exec(letter.text)?.[0] ?? '';
    const choose = async (password: string) => {
      await page.goto(server.baseUrl + path);
      await awake();
      await page.type('input[name=password]', password);
      await page.locator('button[type=submit]').click();
    };
    await choose('another long password');
    await page.waitForFunction(() => location.pathname === '/sign-in');
    await awake();
    await page.type('input[name=email]', 'cora.vane@brindlemere.example');
    await page.type('input[name=password]', 'another long password');
    await Promise.all([page.waitForNavigation(), page.locator('button[type=submit]').click()]);
    await choose('a third password');
    await says('This link was used already');
    const cora = (await setUp()).people.find(({ name }) => name === 'Cora Vane');
    await lead.go('/brindlemere/set-up?view=people');
    await lead.press('Cora Vane');
    await lead.press('Send a link for a new password');
    await lead.sees(`A link for a new password goes to ${cora?.email}.`);
    await waitUntil(() => letters()[1]);
  });

  it('takes public holidays of a region, and days away of a person', async () => {
    await lead.go('/brindlemere/set-up?view=teams');
    await lead.press('Billing');
    await lead.type('Country or region', 'GB-ENG');
    await lead.press('Take its public holidays');
    await lead.sees(/Christmas/);
    await lead.page.locator('[role=dialog] button[type=submit]').click();
    await lead.page.waitForFunction(() => !document.querySelector('[role=dialog]'));
    expect((await setUp()).teams.find(({ name }) => name === 'Billing')?.holidays.length).toBeGreaterThan(10);
  });

  it('founds another programme from nothing, which leads through the order of the work', async () => {
    await lead.go('/brindlemere/set-up');
    await lead.press('Found another programme');
    await lead.page.waitForSelector('[role=dialog] input[name=name]');
    await lead.page.type('[role=dialog] input[name=name]', 'Harbour Ferries');
    await Promise.all([lead.page.waitForNavigation(), lead.press('Found it')]);
    await lead.settle();
    expect(new URL(lead.page.url()).pathname).toBe('/harbour-ferries/set-up');
    await lead.sees('Next: applications and environments');
    await lead.go('/harbour-ferries/set-up?view=applications');
    await lead.press('Add an application');
    await lead.type('Name', 'Ticketing');
    await lead.press('Keep');
    await lead.sees('Ticketing');
    await lead.press('Add an environment');
    await lead.type('Name', 'Trial');
    await lead.type('Address of Ticketing', 'https://trial.example/tickets');
    await lead.press('Keep');
    await lead.sees('trial.example/tickets');
    await lead.sees('Next: teams, with days and hours');
    for (const view of ['map', 'tests', 'scenarios', 'cycles', 'turns', 'defects', 'progress']) {
      await lead.go(`/harbour-ferries/${view}`);
      await lead.page.waitForSelector('h1');
    }
  });

  it('is hidden from, and refused to, who may not', async () => {
    const ines = await openAs(chromium.browser, server.baseUrl, 'Ines Varga');
    await ines.go('/brindlemere/set-up');
    await ines.sees('does not allow you to set up the programme');
    await ines.go('/harbour-ferries/set-up');
    await ines.sees('There is no programme “harbour-ferries” that you belong to.');
  });

  it('changes one’s own name, notices, calendar and password', async () => {
    const jory = await openAs(chromium.browser, server.baseUrl, 'Jory Lind');
    await jory.go('/brindlemere/me');
    await jory.press('Make an address');
    await jory.page.waitForSelector('input[aria-label="Address of my calendar"]');
    const feed = await jory.page.$eval('input[aria-label="Address of my calendar"]', (input) => (input as HTMLInputElement).value);
    const calendar = await (await fetch(feed)).text();
    expect(calendar).toMatch(/^BEGIN:VCALENDAR[\s\S]*BEGIN:VEVENT[\s\S]*END:VCALENDAR/);
    expect((await fetch(feed.replace(/\w{4}\.ics$/, 'xxxx.ics'))).status).toBe(404);
    await jory.type('Now', 'not the one');
    await jory.type('New', 'another password');
    await jory.type('New, once more', 'another password');
    await jory.press('Change it');
    await jory.sees('The password that you have now is another.');
    await jory.type('Now', 'pass-the-baton');
    await jory.press('Change it');
    await jory.sees('The password is changed.');
  });

  it('lets who leaves go: the turns go over, and nobody gets in any more', async () => {
    await lead.go('/brindlemere/set-up?view=people');
    await lead.press('Gil Hansard');
    await lead.page.locator('[role=dialog] summary').click();
    await lead.page.select('[role=dialog] details select', (await setUp()).people.find(({ name }) => name === 'Odile Brack')?.id ?? '');
    await lead.press('Gil Hansard leaves');
    await lead.sees('Gil Hansard has left.');
    const gil = (await setUp()).people.find(({ name }) => name === 'Gil Hansard');
    expect(gil).toMatchObject({ turns: 0, teams: [] });
    const context = await chromium.browser.createBrowserContext();
    const page = await context.newPage();
    await page.goto(`${server.baseUrl}/sign-in`);
    await page.evaluate(async () => {
      await fetch('/api/auth/sign-in/email', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ email: 'gil.hansard@brindlemere.example', password: 'pass-the-baton' }),
      });
    });
    await page.goto(`${server.baseUrl}/brindlemere/turns`);
    await page.waitForFunction(() => document.body.innerText.includes('There is no programme'));
  });

  it('sees who did what', async () => {
    await lead.go('/brindlemere/set-up?view=history');
    await lead.sees('people invited');
    await lead.sees('left');
  });
});

describe('a store with nobody in it', () => {
  it('asks the first to come for an account and a programme, once', async () => {
    const server = await startWebServer(await copyTemplate('empty'));
    const chromium = await launchBrowser();
    try {
      const page = await chromium.browser.newPage();
      await page.goto(`${server.baseUrl}/sign-in`);
      await page.waitForSelector('input[name=programme]');
      await page.type('input[name=name]', 'Una Berg');
      await page.type('input[name=email]', 'una@north.example');
      await page.type('input[name=password]', 'a long password');
      await page.type('input[name=programme]', 'North Lines');
      await Promise.all([page.waitForNavigation(), page.locator('button[type=submit]').click()]);
      await page.waitForFunction(() => document.body.innerText.includes('Next: applications and environments'));
      await page.goto(`${server.baseUrl}/begin`);
      expect(new URL(page.url()).pathname).toBe('/sign-in');
    } finally {
      await chromium.close();
      await server.stop();
    }
  });
});
