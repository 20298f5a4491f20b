/** The figure of an open board: how long after a turn was finished its table says so, in a browser. */
import { randomUUID } from 'node:crypto';
import type { AttemptId } from '@kindred-baton/core/ids';
import { getActor } from '@kindred-baton/store/actor';
import { boards } from '@kindred-baton/store/schema/boards';
import { cycles } from '@kindred-baton/store/schema/cycles';
import { turns } from '@kindred-baton/store/schema/turns';
import { recordStep, startAttempt } from '@kindred-baton/store/turns/make-attempts';
import { perform } from '@kindred-baton/store/operation';
import { and, eq, isNotNull } from 'drizzle-orm';
import { createVisitor, launchBrowser } from '../tests/support/browser.ts';
import type { Figure } from './bench-figure.ts';
import { median } from './bench-figure.ts';
import type { BenchHouse } from './bench-testers.ts';
import { inBenchHouse, openSession } from './bench-testers.ts';

const TURNS = 15;
/** No board asks more often than twice a second: so long is let pass for what came before to be shown. */
const QUIET_MS = 1_500;
const TABLE = 'section[aria-label="Processes by team, errors first"]';

export const benchBoard = (databaseUrl: string): Promise<Figure[]> => inBenchHouse(databaseUrl, undefined, measureBoard);

const rest = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

async function measureBoard({ store, server, lead }: BenchHouse): Promise<Figure[]> {
  const ready = await store.db
    .select({ id: turns.id, personId: turns.assigneeId })
    .from(turns)
    .innerJoin(cycles, eq(cycles.id, turns.cycleId))
    .where(and(eq(cycles.code, 'ACC-2'), eq(turns.status, 'ready'), isNotNull(turns.assigneeId), isNotNull(turns.versionId)))
    .orderBy(turns.id)
    .limit(TURNS);
  const [board] = await store.db.select({ id: boards.id }).from(boards).where(eq(boards.name, 'The lead’s morning'));
  const { browser, close } = await launchBrowser();
  try {
    const page = await browser.newPage();
    // What runs this file puts a mark on functions that only it knows.
    await page.evaluateOnNewDocument('globalThis.__name = (marked) => marked');
    const [name = '', value = ''] = (await openSession(store, lead.personId)).split('=');
    await browser.setCookie({ name, value, domain: new URL(server.baseUrl).hostname, path: '/', secure: true });
    const visitor = createVisitor(page, server.baseUrl, []);
    await visitor.go(`/brindlemere/boards/${board?.id}`);
    await page.waitForSelector(`${TABLE} table`);
    const waits: number[] = [];
    for (const { id: turnId, personId } of ready) {
      const actor = await getActor(store, personId as never, 'brindlemere');
      const attemptId = randomUUID() as AttemptId;
      await perform(store, actor, startAttempt, { turnId, id: attemptId, browser: 'bench' });
      const word = { wordId: randomUUID(), outcome: 'failed' as const, note: 'It says otherwise.', at: new Date().toISOString() };
      await perform(store, actor, recordStep, { attemptId, stepIndex: 0, word });
      await rest(QUIET_MS);
      const before = await page.$eval(TABLE, (table) => (table as HTMLElement).innerText);
      const seenAt = page.evaluate(
        (at, text) =>
          new Promise<number>((resolve) => {
            const watch = new MutationObserver(() => {
              if ((document.querySelector(at) as HTMLElement | null)?.innerText === text) return;
              watch.disconnect();
              resolve(Date.now());
            });
            watch.observe(document.body, { childList: true, subtree: true, characterData: true });
          }),
        TABLE,
        before,
      );
      await rest(50);
      const cookie = await openSession(store, actor.personId);
      const doneAt = Date.now();
      const finished = await fetch(`${server.baseUrl}/api/brindlemere/attempts/${attemptId}/finish`, {
        method: 'POST',
        headers: { cookie, origin: server.baseUrl },
      });
      if (!finished.ok) throw new Error(`It was not finished: ${finished.status} ${await finished.text()}`);
      waits.push((await seenAt) - doneAt);
    }
    const slowest = Math.max(...waits);
    return [
      {
        name: 'A finished turn reaches the table of an open board',
        ...{ value: median(waits), bound: 500, unit: 'ms (median)' },
        note: `${waits.length} turns, from before the finishing is asked for; the slowest ${slowest} ms`,
      },
    ];
  } finally {
    await close();
  }
}
