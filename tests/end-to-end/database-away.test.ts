import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Visitor } from '../support/browser.ts';
import { launchBrowser, openAs } from '../support/browser.ts';
import type { DatabaseProxy } from '../support/database-proxy.ts';
import { openDatabaseProxy } from '../support/database-proxy.ts';
import { copyTemplate } from '../support/test-store.ts';
import type { WebServer } from '../support/web-server.ts';
import { startWebServer } from '../support/web-server.ts';

describe('a database that goes away', () => {
  let proxy: DatabaseProxy;
  let server: WebServer;
  let lead: Visitor;
  let closeBrowser: () => Promise<void>;
  let cookie: string;
  beforeAll(async () => {
    proxy = await openDatabaseProxy(await copyTemplate('demo'));
    server = await startWebServer(proxy.url);
    const chromium = await launchBrowser();
    closeBrowser = chromium.close;
    lead = await openAs(chromium.browser, server.baseUrl, 'Lea Marsh');
    cookie = (await lead.page.cookies()).map(({ name, value }) => `${name}=${value}`).join('; ');
  });
  afterAll(async () => {
    await closeBrowser();
    await server.stop();
    await proxy.close();
  });

  const get = (path: string) => fetch(`${server.baseUrl}${path}`, { headers: { cookie }, redirect: 'manual' });
  const rename = (name: string) =>
    fetch(`${server.baseUrl}/api/brindlemere/set-up`, {
      method: 'PATCH',
      headers: { cookie, origin: server.baseUrl, 'content-type': 'application/json' },
      body: JSON.stringify({ name }),
    });

  it('under load ends nothing but what was under way, which is told to try again; afterwards all is as before', async () => {
    const asked = Array.from({ length: 60 }, (_, index) => (index % 3 === 0 ? rename(`Water ${index}`) : get('/api/brindlemere/strip')));
    const answers = Promise.all(asked);
    await new Promise((resolve) => setTimeout(resolve, 60));
    await proxy.goAway();
    const seen = new Map<number, number>();
    for (const answer of await answers) {
      seen.set(answer.status, (seen.get(answer.status) ?? 0) + 1);
      const { code, message } = (await answer.json()) as { code?: string; message?: string };
      if (answer.status !== 200) expect([answer.status, code, message]).toEqual([503, 'unavailable', expect.stringMatching(/again/)]);
    }
    expect(seen.get(503)).toBeGreaterThan(0);
    expect((await get('/api/health')).status).toBe(503);
    await proxy.comeBack();
    expect((await get('/api/brindlemere/strip')).status).toBe(200);
    expect((await rename('Brindlemere Water Trust')).status).toBe(200);
  });

  it('is said on a page that stays at its address, leads nowhere in a circle, and comes back by itself', async () => {
    await proxy.goAway();
    for (const path of ['/', '/sign-in', '/begin', '/brindlemere/progress', '/brindlemere/cycles']) {
      const answer = await get(path);
      expect([path, answer.status, answer.headers.get('location')]).toEqual([path, 503, null]);
      expect(await answer.text()).toContain('The database does not answer right now.');
    }
    await lead.page.goto(`${server.baseUrl}/brindlemere/progress?rows=team`);
    await lead.sees('The database does not answer right now.');
    expect(lead.page.url()).toContain('/brindlemere/progress?rows=team');
    await proxy.comeBack();
    await lead.page.waitForSelector('h1 ::-p-text(Progress)', { timeout: 20_000 });
    expect(lead.page.url()).toContain('/brindlemere/progress?rows=team');
    lead.errors.splice(0);
  });
});
