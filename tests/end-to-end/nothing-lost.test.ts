import type { GuideView, TurnsHome } from '@kindred-baton/contracts/turns/turn';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestBrowser, Visitor } from '../support/browser.ts';
import { launchBrowser, openAs } from '../support/browser.ts';
import { copyTemplate } from '../support/test-store.ts';
import type { WebServer } from '../support/web-server.ts';
import { startWebServer } from '../support/web-server.ts';

/** A server of its own, since it is killed in the middle of a step. */
describe('nothing recorded is lost', () => {
  let chromium: TestBrowser;
  let server: WebServer;
  let databaseUrl: string;
  let tester: Visitor;
  let turnId = '';
  beforeAll(async () => {
    chromium = await launchBrowser();
    databaseUrl = await copyTemplate('demo');
    server = await startWebServer(databaseUrl);
    tester = await openAs(chromium.browser, server.baseUrl, 'Ines Varga');
    await tester.go('/brindlemere/turns');
    // A turn of hers with enough steps to record a word at a time.
    const { withYou } = await tester.json<TurnsHome>('/api/brindlemere/turns');
    for (const { id, state } of withYou)
      if (
        turnId === '' &&
        state === 'ready' &&
        ((await tester.json<GuideView>(`/api/brindlemere/turns/${id}`)).version?.steps.length ?? 0) > 3
      )
        turnId = id;
    await tester.go(`/brindlemere/turns?turn=${turnId}`);
    await tester.press('Begin');
    await tester.sees(/Step 1 of \d/);
  });
  afterAll(async () => {
    await chromium.close();
    await server.stop();
  });

  const guide = () => tester.json<GuideView>(`/api/brindlemere/turns/${turnId}`);
  const outcomes = async () => (await guide()).attempts[0]?.results.map(({ outcome, note }) => [outcome, note]);

  it('when the server is killed in the middle: what was recorded is there, what was typed meanwhile is sent when it is back', async () => {
    await tester.page.keyboard.press('1');
    await tester.sees(/Step 2 of \d/);
    await tester.page.waitForFunction(() => !document.body.innerText.includes('still to be sent'));
    await server.stop('SIGKILL');
    await tester.type('What you saw (optional)', 'typed while the server was away');
    await tester.press('It worked');
    await tester.sees('still to be sent');
    server = await startWebServer(databaseUrl, server.port);
    await tester.page.waitForFunction(() => !document.body.innerText.includes('still to be sent'), { timeout: 20_000 });
    expect(await outcomes()).toEqual([
      ['passed', ''],
      ['passed', 'typed while the server was away'],
    ]);
  });

  it('when the database breaks every connection off: the next word goes through, none is lost or doubled', async () => {
    const database = new pg.Client({ connectionString: databaseUrl });
    await database.connect();
    await database.query(
      'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
    );
    await database.end();
    await tester.page.keyboard.press('4');
    await tester.page.waitForFunction(
      async (path) => {
        const { attempts } = (await (await fetch(path)).json().catch(() => ({ attempts: [] }))) as { attempts: { results: unknown[] }[] };
        return attempts[0]?.results.length === 3;
      },
      { timeout: 20_000, polling: 300 },
      `/api/brindlemere/turns/${turnId}`,
    );
    expect((await outcomes())?.[2]).toEqual(['skipped', '']);
  });

  it('when the network drops and the page is closed: it is sent from this browser later', async () => {
    await tester.page.setOfflineMode(true);
    await tester.page.keyboard.press('4');
    await tester.sees('still to be sent');
    await tester.page.setOfflineMode(false);
    await tester.go(`/brindlemere/turns?turn=${turnId}`);
    await tester.page.waitForFunction(
      async (path) => {
        const { attempts } = (await (await fetch(path)).json()) as { attempts: { results: unknown[] }[] };
        return attempts[0]?.results.length === 4;
      },
      { timeout: 20_000, polling: 300 },
      `/api/brindlemere/turns/${turnId}`,
    );
    expect((await outcomes())?.[3]).toEqual(['skipped', '']);
  });
});
