/** The figures of a round: the plan of a big cycle, 300 testers at once beside bare inserts, and how soon a change is on another page. */
import { randomUUID } from 'node:crypto';
import { planCycle } from '@kindred-baton/core/cycles/plan/plan-cycle';
import type { PlanJob, PlanProblem } from '@kindred-baton/core/cycles/plan/problem';
import { toPlanProblem } from '@kindred-baton/core/cycles/plan/to-problem';
import { listWorkMinutes } from '@kindred-baton/core/time/work-days';
import { createRandom } from '@kindred-baton/core/values/fresh';
import type { Actor } from '@kindred-baton/store/actor';
import { getPlan } from '@kindred-baton/store/cycles/get-plan';
import type { Store } from '@kindred-baton/store/database';
import { ask } from '@kindred-baton/store/operation';
import { history } from '@kindred-baton/store/schema/history';
import { cycles } from '@kindred-baton/store/schema/cycles';
import { attempts, evidence, stepResults, turns } from '@kindred-baton/store/schema/turns';
import { count, eq } from 'drizzle-orm';
import { launchBrowser } from '../tests/support/browser.ts';
import { DEMO_PASSWORD } from '../tests/support/demo-password.ts';
import type { Figure } from './bench-figure.ts';
import { median } from './bench-figure.ts';
import type { Tester } from './bench-testers.ts';
import { inBenchHouse, layTesters, postStep, STEPS } from './bench-testers.ts';

const TURNS = 5_000;
const LANES = 12;
const LEGS = 10;

/** Runs of ten legs over twelve lanes of four people with two hours a day, some legs with days to wait. */
function createProblem(): PlanProblem {
  const random = createRandom(4_217);
  const below = (size: number) => Math.floor(random() * size);
  const minutesByDay = listWorkMinutes('2026-11-30', 400, { workingDays: [1, 2, 3, 4, 5], holidays: [], hoursPerDay: 2 });
  const lanes = Array.from({ length: LANES }, (_, lane) => ({ id: `lane ${lane}`, minutesByDay, startsAt: 540 }));
  const workers = lanes.flatMap(({ id }) =>
    Array.from({ length: 4 }, (_, i) => ({ id: `${id}/${i}`, lanes: [id], minutesByDay, startsAt: 540 })),
  );
  const jobs = Array.from({ length: TURNS }, (_, i): PlanJob => {
    const [run, leg] = [Math.floor(i / LEGS), i % LEGS];
    const lane = below(LANES);
    return {
      ...{ id: String(i), run: String(run), lane: `lane ${lane}`, minutes: 8 + below(30), after: leg === 0 ? [] : [String(i - 1)] },
      ...{ waitDays: random() < 0.03 ? 1 + below(4) : 0, notBefore: 0, worker: `lane ${lane}/${below(4)}`, sameAs: null, otherThan: [] },
    };
  });
  return {
    jobs,
    workers,
    lanes,
    runs: Array.from({ length: TURNS / LEGS }, (_, i) => ({ id: String(i), rank: i % 3 })),
    startsAt: 0,
    endsAt: 20 * 1_440,
  };
}

async function benchPlan(store: Store, lead: Actor): Promise<Figure[]> {
  const problem = createProblem();
  const times = Array.from({ length: 9 }, () => {
    const start = performance.now();
    planCycle(problem);
    return performance.now() - start;
  });
  const demo = planCycle(toPlanProblem(await ask(store, lead, getPlan, 'ACC-2')));
  return [
    {
      name: 'Plan of 5,000 turns in 12 lanes',
      value: median(times),
      bound: 1_000,
      unit: 'ms',
      note: `${(100 * planCycle(problem).gap).toFixed(1)} % above its lower bound`,
    },
    { name: 'Plan of the demo above its lower bound', value: 100 * demo.gap, bound: 5, unit: '%', note: '' },
  ];
}

const TESTERS = 300;
const PACED_MS = 60_000;
const EVERY_MS = 2_000;
const FLAT_OUT_MS = 15_000;
const PICTURE_BYTES = 200_000;
// A JPEG by its first bytes; the rest is noise, as a photograph is to a network.
const PICTURE = Buffer.concat([Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 16, 0x4a, 0x46, 0x49, 0x46, 0]), Buffer.alloc(PICTURE_BYTES, 0x5a)]);

async function postPicture(baseUrl: string, tester: Tester): Promise<void> {
  const form = new FormData();
  form.set('id', randomUUID());
  form.set('stepIndex', '0');
  form.set('file', new File([PICTURE], 'screen.jpg'));
  const response = await fetch(`${baseUrl}/api/brindlemere/attempts/${tester.attemptId}/evidence`, {
    method: 'POST',
    headers: { cookie: tester.cookie, origin: baseUrl },
    body: form,
  });
  if (!response.ok) throw new Error(`a picture was refused: ${response.status} ${await response.text()}`);
  await response.arrayBuffer();
}

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Every tester a word each two seconds, each tenth with a picture, for a minute; answers how long each took. */
async function runPaced(baseUrl: string, testers: readonly Tester[]): Promise<{ waits: number[]; pictures: number }> {
  const waits: number[] = [];
  let pictures = 0;
  const end = performance.now() + PACED_MS;
  await Promise.all(
    testers.map(async (tester, index) => {
      await sleep((index / testers.length) * EVERY_MS);
      for (let round = 0; performance.now() < end; round += 1) {
        const start = performance.now();
        await postStep(baseUrl, tester);
        waits.push(performance.now() - start);
        if ((round + index) % 10 === 0) {
          pictures += 1;
          await postPicture(baseUrl, tester);
        }
        await sleep(Math.max(0, EVERY_MS - (performance.now() - start)));
      }
    }),
  );
  return { waits, pictures };
}

/** As fast as they are taken. */
async function runFlatOut(baseUrl: string, testers: readonly Tester[]): Promise<number> {
  const start = performance.now();
  let done = 0;
  await Promise.all(
    testers.map(async (tester) => {
      while (performance.now() - start < FLAT_OUT_MS && tester.step < STEPS) {
        await postStep(baseUrl, tester);
        done += 1;
      }
    }),
  );
  return (1_000 * done) / (performance.now() - start);
}

/** The same rows, inserted with nothing around: a word and its line of the history in one transaction, from as many connections as the server has. */
async function insertBare(store: Store, lead: Actor, testers: readonly Tester[]): Promise<number> {
  const CONNECTIONS = 10;
  const start = performance.now();
  let done = 0;
  await Promise.all(
    Array.from({ length: CONNECTIONS }, async (_, lane) => {
      for (let step = STEPS; performance.now() - start < FLAT_OUT_MS; step += 1) {
        const tester = testers[(lane + CONNECTIONS * (step % Math.floor(testers.length / CONNECTIONS))) % testers.length]!;
        const at = new Date();
        await store.db.transaction(async (db) => {
          await db.insert(stepResults).values({
            programmeId: lead.programmeId,
            attemptId: tester.attemptId as never,
            stepIndex: 10_000 + step * CONNECTIONS + lane,
            outcome: 'passed',
            note: '',
            recordedAt: at,
            wordId: randomUUID(),
            byId: tester.personId as never,
          });
          await db.insert(history).values({
            programmeId: lead.programmeId,
            personId: tester.personId as never,
            at,
            subject: 'attempt',
            subjectId: tester.attemptId,
            action: 'step recorded',
            details: { step, outcome: 'passed' },
          });
        });
        done += 1;
      }
    }),
  );
  return (1_000 * done) / (performance.now() - start);
}

async function countKept(store: Store): Promise<{ words: number; pictures: number }> {
  const own = store.db
    .select({ id: attempts.id })
    .from(attempts)
    .innerJoin(turns, eq(turns.id, attempts.turnId))
    .innerJoin(cycles, eq(cycles.id, turns.cycleId))
    .where(eq(cycles.code, 'BENCH-C'))
    .as('own');
  const [words] = await store.db.select({ rows: count() }).from(stepResults).innerJoin(own, eq(own.id, stepResults.attemptId));
  const [pictures] = await store.db.select({ rows: count() }).from(evidence).innerJoin(own, eq(own.id, evidence.attemptId));
  return { words: words?.rows ?? 0, pictures: pictures?.rows ?? 0 };
}

async function benchTesters(baseUrl: string, store: Store, lead: Actor): Promise<Figure[]> {
  const testers = await layTesters(store, lead, { testers: TESTERS, node: 'NS-2.1' });
  const { waits, pictures } = await runPaced(baseUrl, testers);
  const sent = testers.reduce((sum, { step }) => sum + step, 0);
  const kept = await countKept(store);
  const rate = await runFlatOut(baseUrl, testers);
  const bare = await insertBare(store, lead, testers);
  const sorted = [...waits].sort((a, b) => a - b);
  return [
    {
      name: '300 testers for a minute: words and pictures lost or doubled',
      value: Math.abs(kept.words - sent) + Math.abs(kept.pictures - pictures),
      bound: 0,
      unit: '',
      note: `${sent} words and ${pictures} pictures sent and counted; a word took ${median(waits).toFixed(0)} ms, 95 % under ${(sorted[Math.floor(sorted.length * 0.95)] ?? 0).toFixed(0)} ms`,
    },
    {
      name: 'Bare inserts beside what the server takes flat out',
      value: bare / rate,
      bound: 3,
      unit: '×',
      note: `${bare.toFixed(0)} against ${rate.toFixed(0)} words a second`,
    },
  ];
}

const CHANGES = 15;

/** From the moment a word is sent until it stands on another person's open page, in a real browser. */
async function benchLive(baseUrl: string): Promise<Figure[]> {
  const chromium = await launchBrowser();
  try {
    const open = async (email: string, path: string) => {
      const page = await (await chromium.browser.createBrowserContext()).newPage();
      // What runs this script names inner functions by a helper that a page does not have.
      await page.evaluateOnNewDocument('globalThis.__name = (named) => named');
      await page.goto(`${baseUrl}/sign-in`);
      await page.evaluate(
        (body) =>
          fetch('/api/auth/sign-in/email', { method: 'POST', headers: { 'content-type': 'application/json' }, body }).then(() => undefined),
        JSON.stringify({ email, password: DEMO_PASSWORD }),
      );
      await page.goto(baseUrl + path);
      await page.waitForSelector('h1');
      return page;
    };
    const owner = await open('karim.bol@brindlemere.example', '/brindlemere/turns');
    const lead = await open('lea.marsh@brindlemere.example', '/brindlemere/defects/TQ-203');
    await lead.bringToFront();
    await sleep(2_000);
    const waits: number[] = [];
    for (let i = 0; i < CHANGES; i += 1) {
      const text = `word ${i} ${randomUUID()}`;
      const seen = lead.evaluate(
        (wanted) =>
          new Promise<number>((resolve) => {
            const look = () => {
              if (document.body.innerText.includes(wanted)) resolve(Date.now());
              else setTimeout(look, 4);
            };
            look();
          }),
        text,
      );
      const start = await owner.evaluate(
        async (body) => {
          const at = Date.now();
          await fetch('/api/brindlemere/defects/TQ-203/talk', { method: 'POST', headers: { 'content-type': 'application/json' }, body });
          return at;
        },
        JSON.stringify({ id: randomUUID(), text }),
      );
      waits.push((await seen) - start);
      await sleep(700);
    }
    return [
      {
        name: 'A change on another open page (median)',
        value: median(waits),
        bound: 300,
        unit: 'ms',
        note: `slowest of ${CHANGES}: ${Math.max(...waits)} ms`,
      },
    ];
  } finally {
    await chromium.close();
  }
}

export const benchRound = (serverUrl: string): Promise<Figure[]> =>
  inBenchHouse(serverUrl, undefined, async ({ store, server: { baseUrl }, lead }) => [
    ...(await benchPlan(store, lead)),
    ...(await benchLive(baseUrl)),
    ...(await benchTesters(baseUrl, store, lead)),
  ]);
