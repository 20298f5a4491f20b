/** The figures of a big rollout (`npm run bench -- --size big`): what pages take and weigh, and what words wait while leads look on. */
import { readFileSync } from 'node:fs';
import { BIG } from '@kindred-baton/store/demo/big/big-size';
import type { Figure } from './bench-figure.ts';
import { median } from './bench-figure.ts';
import type { BenchHouse, Tester } from './bench-testers.ts';
import { inBenchHouse, layTesters, openSession, postStep, STEPS } from './bench-testers.ts';

/** The lead's pages, each as it is opened first. */
const PAGES = [
  ...['/progress', '/progress?rows=scenario&columns=person', '/map', '/map?node=NS-2', '/requirements', '/requirements?view=matrix'],
  ...[
    '/defects',
    '/defects?view=board',
    '/cycles',
    '/cycles/ACC-2',
    '/cycles/ACC-2?view=scope',
    '/cycles/ACC-2?view=acceptance',
    '/cycles/new',
  ],
  ...['/tests', '/scenarios', '/runners', '/set-up', '/turns', '/cycles/ACC-2/turns', '/cycles/ACC-2/turns?status=held'],
];
/** What a page asks for once it stands. */
const READS = ['/map', '/cycles/scope', '/cycles/ACC-2/plan', '/cycles/ACC-2/acceptance', '/cycles/ACC-2/runs', '/map/outline'];
const ROUNDS = 7;

interface Taken {
  readonly path: string;
  readonly ms: number;
  readonly kB: number;
}

async function get(url: string, cookie: string): Promise<Response> {
  const answer = await fetch(url, { headers: { cookie, 'accept-encoding': 'identity' } });
  if (!answer.ok) throw new Error(`${url} answered ${answer.status}.`);
  return answer;
}

async function take(baseUrl: string, cookie: string, path: string): Promise<Taken> {
  const times: number[] = [];
  let bytes = 0;
  for (let round = 0; round < ROUNDS; round += 1) {
    const start = performance.now();
    bytes = (await (await get(`${baseUrl}${path}`, cookie)).arrayBuffer()).byteLength;
    times.push(performance.now() - start);
  }
  return { path, ms: median(times), kB: bytes / 1_000 };
}

const print = (taken: readonly Taken[], of: 'ms' | 'kB') =>
  taken.map(({ path, [of]: value }) => `${path.replace(/^\/(api\/)?brindlemere/, '')} ${value.toFixed(0)}`).join(', ');

async function benchPages({ server: { baseUrl, pid } }: BenchHouse, cookie: string): Promise<Figure[]> {
  const pages: Taken[] = [];
  // Once before, so that no figure is that of a server that has just started.
  for (const path of PAGES) await get(`${baseUrl}/brindlemere${path}`, cookie).then((answer) => answer.arrayBuffer());
  for (const path of PAGES) pages.push(await take(baseUrl, cookie, `/brindlemere${path}`));
  const reads: Taken[] = [];
  for (const path of READS) reads.push(await take(baseUrl, cookie, `/api/brindlemere${path}`));
  const [slow, big] = [pages.filter(({ ms }) => ms > 300), pages.filter(({ kB }) => kB > 400)];
  const most = (list: readonly Taken[], of: 'ms' | 'kB') => Math.max(...list.map((each) => each[of]));
  const rss = Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? NaN) / 1_024;
  return [
    { name: 'Slowest page (median)', value: most(pages, 'ms'), bound: 300, unit: 'ms', note: `above: ${print(slow, 'ms') || 'none'}` },
    { name: 'Largest first answer', value: most(pages, 'kB'), bound: 400, unit: 'kB', note: `above: ${print(big, 'kB') || 'none'}` },
    {
      name: 'Slowest read of a page that stands',
      value: most(reads, 'ms'),
      bound: 1_000,
      unit: 'ms',
      note: `${print(reads, 'ms')}; kB: ${print(reads, 'kB')}`,
    },
    { name: 'Memory of the server after all pages', value: rss, bound: 500, unit: 'MB', note: '' },
  ];
}

const LOAD_MS = 30_000;
const ALONE_MS = 15_000;
const WORDS_A_SECOND = 150;
/** As pages gather changes (features/frame/use-live.ts). */
const GATHER_MS = 500;
const PATIENCE = 3;
const LEADS = 10;
const WATCHED = [
  '/progress?cycle=ACC-2',
  '/strip',
  '/defects',
  '/map',
  '/requirements',
  '/cycles/ACC-2/plan',
  '/cycles/ACC-2/acceptance',
  '/cycles',
];

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** A page that is looked at: hears of changes, and asks again for the strip and what it shows, one answer after the other. */
async function look(baseUrl: string, cookie: string, path: string, signal: AbortSignal): Promise<void> {
  const stream = await fetch(`${baseUrl}/api/brindlemere/events`, { headers: { cookie }, signal });
  let isStale = false;
  const hear = (async () => {
    const decoder = new TextDecoder();
    for await (const piece of stream.body as unknown as AsyncIterable<Uint8Array>) isStale ||= decoder.decode(piece).includes('data:');
  })().catch(() => undefined);
  let tookMs = 0;
  while (!signal.aborted) {
    await sleep(Math.max(GATHER_MS - tookMs, (PATIENCE - 1) * tookMs));
    if (!isStale) continue;
    isStale = false;
    const start = performance.now();
    await Promise.all(['/strip', path].map(async (each) => (await get(`${baseUrl}/api/brindlemere${each}`, cookie)).arrayBuffer()));
    tookMs = performance.now() - start;
  }
  await hear;
}

/** How long after something was sent a page that counts turns under way shows it. */
async function timeChanges(baseUrl: string, cookie: string, begin: () => Promise<void>): Promise<number> {
  const count = async () => {
    const { total } = (await (await get(`${baseUrl}/api/brindlemere/progress?cycle=BENCH-C`, cookie)).json()) as {
      total: Record<string, number>;
    };
    return total['under way'] ?? 0;
  };
  const before = await count();
  const start = performance.now();
  await begin();
  while ((await count()) === before) await sleep(100);
  return performance.now() - start;
}

const late = (waits: readonly number[]) => [...waits].sort((a, b) => a - b)[Math.floor(waits.length * 0.95)] ?? NaN;

/** Each tester a word a second; answers how long each took. */
async function sendWords(baseUrl: string, testers: readonly Tester[], forMs: number): Promise<number[]> {
  const waits: number[] = [];
  const end = performance.now() + forMs;
  const send = async (tester: Tester, at: number) => {
    await sleep((at / testers.length) * 1_000);
    while (performance.now() < end && tester.step < STEPS) {
      const start = performance.now();
      await postStep(baseUrl, tester);
      waits.push(performance.now() - start);
      await sleep(Math.max(0, 1_000 - (performance.now() - start)));
    }
  };
  await Promise.all(testers.map(send));
  return waits;
}

async function benchWords({ store, server: { baseUrl }, lead }: BenchHouse, cookie: string): Promise<Figure[]> {
  const testers = await layTesters(store, lead, { testers: WORDS_A_SECOND + LOAD_MS / 1_000, node: 'NS-H' });
  const [own, spare] = [testers.slice(0, WORDS_A_SECOND), testers.slice(WORDS_A_SECOND)];
  const alone = await sendWords(baseUrl, own, ALONE_MS);
  const stop = new AbortController();
  const leads = Array.from({ length: LEADS }, (_, i) => look(baseUrl, cookie, WATCHED[i % WATCHED.length] ?? '/strip', stop.signal));
  const end = performance.now() + LOAD_MS;
  const words = sendWords(baseUrl, own, LOAD_MS);
  const seen: number[] = [];
  for (const tester of spare) {
    if (performance.now() > end) break;
    await sleep(900);
    seen.push(await timeChanges(baseUrl, cookie, () => endBlocked(baseUrl, tester)));
  }
  const waits = await words;
  stop.abort();
  await Promise.allSettled(leads);
  return [
    {
      name: `A word while ${LEADS} leads look on (95 % are under)`,
      value: late(waits),
      bound: 300,
      unit: 'ms',
      note: `${waits.length} words in ${LOAD_MS / 1_000} s, ${median(waits).toFixed(0)} ms in the middle, ${Math.max(...waits).toFixed(0)} ms at most; alone ${median(alone).toFixed(0)} and 95 % under ${late(alone).toFixed(0)} ms`,
    },
    {
      name: 'A change as a lead sees it meanwhile (median)',
      value: median(seen),
      bound: 1_000,
      unit: 'ms',
      note: `${Math.max(...seen).toFixed(0)} ms at most, of ${seen.length}`,
    },
  ];
}

/** A tester is blocked at her first step: her turn, and every figure of it, is another. */
async function endBlocked(baseUrl: string, tester: Tester): Promise<void> {
  await postStep(baseUrl, tester, { outcome: 'blocked', note: 'The screen does not open.' });
  const answer = await fetch(`${baseUrl}/api/brindlemere/attempts/${tester.attemptId}/finish`, {
    method: 'POST',
    headers: { cookie: tester.cookie, origin: baseUrl },
  });
  if (!answer.ok) throw new Error(`An attempt could not be ended: ${answer.status} ${await answer.text()}`);
}

export const benchSize = (serverUrl: string): Promise<Figure[]> =>
  inBenchHouse(serverUrl, BIG, async (house) => {
    const cookie = await openSession(house.store, house.lead.personId);
    return [...(await benchPages(house, cookie)), ...(await benchWords(house, cookie))];
  });
