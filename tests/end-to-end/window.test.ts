import { once } from 'node:events';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import type { RunnersView } from '@kindred-baton/contracts/runners/runner';
import type { WindowWord } from '@kindred-baton/contracts/window/messages';
import { readFrame } from '@kindred-baton/core/window/frame';
import { people } from '@kindred-baton/store/schema/people';
import { members } from '@kindred-baton/store/schema/programmes';
import type { TestBrowser, Visitor } from '../support/browser.ts';
import { launchBrowser, openAs } from '../support/browser.ts';
import type { RunnerHouse, RunnerProcess } from '../support/runner-house.ts';
import { openRunnerHouse } from '../support/runner-house.ts';

const API = '/api/brindlemere';
const PATIENCE_MS = 120_000;

type Doing = RunnersView['runners'][number]['now'][number];

/** A runner in the middle of a turn, and those who look at what it does. */
describe('the window', { timeout: 600_000 }, () => {
  let house: RunnerHouse;
  let chromium: TestBrowser;
  let lead: Visitor;
  let runner: RunnerProcess;
  let held: Doing;
  beforeAll(async () => {
    house = await openRunnerHouse();
    chromium = await launchBrowser();
    lead = await openAs(chromium.browser, house.server.baseUrl, 'Lea Marsh');
    const { pools } = await lead.json<{ pools: { id: string }[] }>(`${API}/pools`);
    await send('POST', '/cycles/REG-4.2/plan', { kind: 'to runners', poolId: pools[0]?.id, which: 'all' });
    await send('POST', '/cycles/REG-4.2/move', { from: 'planning', to: 'open' });
    // A step takes a while: a turn is long enough to be held in its middle.
    await house.deploy('rehearsal', { slowMs: 600 });
    runner = house.startRunner({ KINDRED_BATON_RUNNER_SESSIONS: '1' });
    held = await hold();
  }, 300_000);
  afterAll(async () => {
    // A runner that was killed leaves its browser running; the next one in its folder ends that.
    const next = house.startRunner();
    await until(() => house.readLog().split('asks for turns').length > 2);
    await next.end();
    await chromium.close();
    await house.close();
  });

  const view = () => lead.json<RunnersView>(`${API}/runners`);
  const send = (method: string, path: string, body: unknown) =>
    lead.page.evaluate(
      (how, to, what) =>
        fetch(to, { method: how, headers: { 'content-type': 'application/json' }, body: what }).then((answer) => answer.status),
      method,
      `${API}${path}`,
      JSON.stringify(body),
    );
  const until = async <Found>(look: () => Promise<Found | undefined | false> | Found | undefined | false): Promise<Found> => {
    const end = Date.now() + PATIENCE_MS;
    for (;;) {
      const found = await look();
      if (found) return found;
      if (Date.now() > end) throw new Error(`It did not come:\n${house.readLog().slice(-3_000)}`);
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  };
  const order = async (wanted: string) => send('PUT', `/runners/${(await view()).runners[0]?.id}/order`, { order: wanted });
  /** A turn in the middle that stays there. */
  async function hold(): Promise<Doing> {
    for (;;) {
      const isInside = ({ step, steps }: Doing) => step >= 2 && step <= steps - 2;
      await until(async () => (await view()).runners[0]?.now.some(isInside));
      await order('pause');
      await new Promise((resolve) => setTimeout(resolve, 2_000));
      const found = (await view()).runners[0]?.now.find(isInside);
      if (found) return found;
      await order('work');
    }
  }
  const cookieOf = async (visitor: Visitor) => (await visitor.page.cookies()).map(({ name, value }) => `${name}=${value}`).join('; ');
  const openLine = (attempt: string, headers: Record<string, string>) =>
    new WebSocket(`${house.server.baseUrl.replace('http', 'ws')}${API}/attempts/${attempt}/window`, { headers }).on(
      'error',
      () => undefined,
    );
  /** How a line that is not let in is answered. */
  const refusalOf = async (socket: WebSocket) => {
    const [, { statusCode }] = (await once(socket, 'unexpected-response')) as [unknown, { statusCode: number }];
    return statusCode;
  };
  /** What stands on the canvas: how many of its points are not all alike. */
  const countColours = (visitor: Visitor) =>
    visitor.page.evaluate(() => {
      const board = document.querySelector('canvas');
      if (!board || board.width === 0) return 0;
      const { data } = board.getContext('2d')!.getImageData(0, 0, board.width, board.height);
      const seen = new Set<number>();
      for (let at = 0; at < data.length; at += 4_004) seen.add((data[at]! << 16) | (data[at + 1]! << 8) | data[at + 2]!);
      return seen.size;
    });

  it('shows the application as it is, the step under way and its place, from the runners’ list, to three at once', async () => {
    await lead.go('/brindlemere/runners');
    await Promise.all([lead.page.waitForNavigation(), lead.press('Watch', 'link')]);
    await lead.settle();
    const others = [
      await openAs(chromium.browser, house.server.baseUrl, 'Edda Quill'),
      await openAs(chromium.browser, house.server.baseUrl, 'Cora Vane'),
    ];
    await others[1]!.page.setViewport({ width: 390, height: 800 });
    for (const other of others) await other.go(`/brindlemere/turns/${held.turn}/window`);
    for (const visitor of [lead, ...others]) {
      await until(async () => (await countColours(visitor)) > 3);
      await visitor.sees(`Step ${held.step + 1} of ${held.steps}`);
    }
    await lead.sees('3 look');
    const wide = await others[1]!.page.evaluate(() => document.documentElement.scrollWidth);
    expect(wide).toBeLessThanOrEqual(390);
    await others[1]!.page.close();
    await lead.sees('2 look');
    await others[0]!.page.close();
    expect([...lead.errors, ...others[0]!.errors]).toEqual([]);
  });

  it('sends nothing while the page rests, and its newest frame at once to whoever comes later', async () => {
    const socket = openLine(held.attempt, { cookie: await cookieOf(lead), origin: house.server.baseUrl });
    const frames: Buffer[] = [];
    const words: WindowWord[] = [];
    socket.on('message', (data, isBinary) =>
      isBinary ? frames.push(data as Buffer) : words.push(JSON.parse((data as Buffer).toString()) as WindowWord),
    );
    await until(() => frames.length > 0 && words.some(({ kind }) => kind === 'at'));
    expect(readFrame(frames[0]!)?.about).toMatchObject({ attempt: held.attempt });
    expect([...readFrame(frames[0]!)!.jpeg.subarray(0, 2)]).toEqual([0xff, 0xd8]);
    const before = frames.length;
    await new Promise((resolve) => setTimeout(resolve, 2_000));
    const sent = frames.slice(before).reduce((sum, { length }) => sum + length, 0);
    expect(sent / 2).toBeLessThan(300_000);
    expect(words.find(({ kind }) => kind === 'at')).toMatchObject({ step: held.step });
    socket.close();
  });

  it('is for members of the programme, from its own pages, by their session', async () => {
    const cookie = await cookieOf(lead);
    const origin = house.server.baseUrl;
    expect(await refusalOf(openLine(held.attempt, { origin }))).toBe(401);
    expect(await refusalOf(openLine(held.attempt, { cookie }))).toBe(403);
    expect(await refusalOf(openLine(held.attempt, { cookie, origin: 'http://elsewhere.example' }))).toBe(403);
    expect(await refusalOf(openLine('00000000-0000-4000-8000-000000000000', { cookie, origin }))).toBe(404);
    expect(await refusalOf(openLine('nonsense', { cookie, origin }))).toBe(404);
    const other = new WebSocket(`${origin.replace('http', 'ws')}/api/elsewhere/attempts/${held.attempt}/window`, {
      headers: { cookie, origin },
    });
    expect(await refusalOf(other)).toBe(404);
    const forged = new WebSocket(`${origin.replace('http', 'ws')}${API}/runners/window`, {
      headers: { authorization: `Bearer kbr_${'x'.repeat(40)}` },
    });
    expect(await refusalOf(forged)).toBe(401);
    expect(await refusalOf(new WebSocket(`${origin.replace('http', 'ws')}/anywhere`, { headers: { cookie, origin } }))).toBe(404);
  });

  it('closes within a second for whoever loses the right to look', async () => {
    const visitor = await openAs(chromium.browser, house.server.baseUrl, 'Cora Vane');
    const socket = openLine(held.attempt, { cookie: await cookieOf(visitor), origin: house.server.baseUrl });
    await once(socket, 'message');
    const [cora] = await house.store.db.select({ id: people.id }).from(people).where(eq(people.name, 'Cora Vane'));
    expect(await send('DELETE', `/set-up/people/${cora?.id}`, { handTo: null })).toBe(200);
    const from = performance.now();
    const [code] = (await once(socket, 'close')) as [number];
    expect([code, performance.now() - from < 2_500]).toEqual([1008, true]);
    await house.store.db.update(members).set({ leftAt: null }).where(eq(members.personId, cora!.id));
  });

  it('hears nothing of what is no word of a runner, and shows nobody what is not that runner’s', async () => {
    const socket = openLine(held.attempt, { cookie: await cookieOf(lead), origin: house.server.baseUrl });
    await once(socket, 'message');
    // What somebody who looks says is heard by nobody.
    socket.send('nonsense');
    socket.send(Buffer.alloc(1_000));
    await new Promise((resolve) => setTimeout(resolve, 500));
    expect(socket.readyState).toBe(WebSocket.OPEN);
    socket.close();
  });

  it('says so when the runner is gone, and when the attempt has ended shows what was seen, step by step', async () => {
    await lead.go(`/brindlemere/turns/${held.turn}/window`);
    await until(async () => (await countColours(lead)) > 3);
    await runner.end('SIGKILL');
    await lead.sees('Nobody shows this turn just now.');
    await lead.go('/brindlemere/runners');
    const guide = await lead.json<{ attempts: { id: string; finishedAt: string | null }[] }>(`${API}/turns/${held.turn}`);
    const own = guide.attempts.find(({ id }) => id === held.attempt);
    // Broken off once the lease is over.
    await until(
      async () => (await lead.json<typeof guide>(`${API}/turns/${held.turn}`)).attempts.find(({ id }) => id === own?.id)?.finishedAt,
    );
    await lead.go(`/brindlemere/turns/${held.turn}/window?attempt=${held.attempt}&step=1`);
    await lead.sees('As it was at step 1');
    await lead.page.keyboard.press('ArrowRight');
    await lead.sees('As it was at step 2');
    expect(new URL(lead.page.url()).searchParams.get('step')).toBe('2');
  });
});
