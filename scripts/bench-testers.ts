/** Testers for a bench: a cycle with a turn and an attempt under way for each, their sessions, and the words they send. */
import { createHmac, randomUUID } from 'node:crypto';
import { createLeg } from '@kindred-baton/core/scenarios/scenario-document';
import type { Actor } from '@kindred-baton/store/actor';
import { getActor } from '@kindred-baton/store/actor';
import { createCycle } from '@kindred-baton/store/cycles/change-cycles';
import { getCycleScope } from '@kindred-baton/store/cycles/get-cycle-scope';
import { moveCycle } from '@kindred-baton/store/cycles/move-cycle';
import type { Store } from '@kindred-baton/store/database';
import { createStore } from '@kindred-baton/store/database';
import type { BigSize } from '@kindred-baton/store/demo/big/big-size';
import { seedDemo } from '@kindred-baton/store/demo/seed-demo';
import { migrateStore } from '@kindred-baton/store/migrate';
import { ask, perform } from '@kindred-baton/store/operation';
import { getChoices } from '@kindred-baton/store/programmes/get-viewer';
import { createScenario } from '@kindred-baton/store/scenarios/change-scenarios';
import { editScenario } from '@kindred-baton/store/scenarios/edit-scenario';
import { cycles } from '@kindred-baton/store/schema/cycles';
import { people, sessions } from '@kindred-baton/store/schema/people';
import { members } from '@kindred-baton/store/schema/programmes';
import { turns } from '@kindred-baton/store/schema/turns';
import { agreeTest, createTest, saveTest } from '@kindred-baton/store/tests/change-tests';
import { startAttempt } from '@kindred-baton/store/turns/make-attempts';
import { eq } from 'drizzle-orm';
import { DEMO_PASSWORD_HASH } from '../tests/support/demo-password.ts';
import type { WebServer } from '../tests/support/web-server.ts';
import { startWebServer } from '../tests/support/web-server.ts';

/** How many steps each can send. */
export const STEPS = 120;
const SECRET = 'a secret of the end-to-end tests';

export interface Tester {
  readonly personId: string;
  readonly attemptId: string;
  readonly cookie: string;
  step: number;
}

/** Signs somebody in: the cookie to send. A session's cookie is its token, signed: HMAC-SHA256 in base64 (better-auth 1.7.25). */
export async function openSession(store: Store, personId: Actor['personId']): Promise<string> {
  const token = randomUUID();
  await store.db.insert(sessions).values({ id: randomUUID(), userId: personId, token, expiresAt: new Date(Date.now() + 7 * 86_400_000) });
  const signed = `${token}.${createHmac('sha256', SECRET).update(token).digest('base64')}`;
  return `__Secure-kindred-baton.session_token=${encodeURIComponent(signed)}`;
}

interface Laying {
  readonly testers: number;
  /** Where on the map. */
  readonly node: string;
}

/** A cycle, BENCH-C, with a turn for each tester, each with an attempt under way at a test of 120 steps. */
export async function layTesters(store: Store, lead: Actor, { testers: wanted, node }: Laying): Promise<Tester[]> {
  await perform(store, lead, createTest, { code: 'BENCH', name: 'Long', node, teamId: null, applicationId: null });
  const steps = Array.from({ length: STEPS }, (_, i) => ({ do: 'see' as const, target: `Line ${i}` }));
  await perform(store, lead, saveTest, {
    code: 'BENCH',
    save: { base: { number: 1, revision: 1 }, name: 'Long', minutes: 5, steps, needs: [], gives: [], rows: [] },
  });
  await perform(store, lead, agreeTest, { code: 'BENCH', number: 1, revision: 2 });
  await perform(store, lead, createScenario, { code: 'BENCH-S', name: 'Long', node });
  const rows = Array.from({ length: wanted }, (_, i) => ({
    kind: 'add row' as const,
    row: { id: randomUUID(), name: `Row ${i}`, values: {} },
    before: null,
  }));
  await perform(store, lead, editScenario, {
    code: 'BENCH-S',
    edits: [{ kind: 'add leg', leg: createLeg({ id: randomUUID(), test: 'BENCH' }), before: null }, ...rows] as never,
  });
  const scenario = (await ask(store, lead, getCycleScope, undefined)).scenarios.find(({ code }) => code === 'BENCH-S');
  const { environments } = await ask(store, lead, getChoices, undefined);
  const scope = [{ scenarioId: scenario?.id as never, rowIds: scenario?.rows.map(({ id }) => id) ?? [] }];
  await perform(store, lead, createCycle, {
    code: 'BENCH-C',
    name: 'Bench',
    purpose: 'smoke',
    environmentId: environments[0]?.id as never,
    startsOn: '2026-11-02',
    endsOn: '2026-12-30',
    scope,
  });
  await perform(store, lead, moveCycle, { code: 'BENCH-C', from: 'planning', to: 'open' });
  const turnRows = await store.db
    .select({ id: turns.id })
    .from(turns)
    .innerJoin(cycles, eq(cycles.id, turns.cycleId))
    .where(eq(cycles.code, 'BENCH-C'));
  const testers: Tester[] = [];
  for (const [i, { id: turnId }] of turnRows.entries()) {
    const personId = randomUUID() as never;
    await store.db.insert(people).values({ id: personId, name: `Tester ${i}`, email: `tester.${i}@bench.example` });
    await store.db.insert(members).values({ programmeId: lead.programmeId, personId, roles: ['tester'] });
    await store.db.update(turns).set({ assigneeId: personId }).where(eq(turns.id, turnId));
    const attemptId = randomUUID() as never;
    await perform(store, { ...lead, personId, roles: ['tester'] }, startAttempt, { turnId, id: attemptId, browser: 'bench' });
    testers.push({ personId, attemptId, cookie: await openSession(store, personId), step: 0 });
  }
  return testers;
}

const toWord = (wordId: string) => ({ wordId, outcome: 'passed' as const, note: '', at: new Date().toISOString() });

export async function postStep(baseUrl: string, tester: Tester, said: object = {}): Promise<void> {
  const step = tester.step;
  tester.step += 1;
  const response = await fetch(`${baseUrl}/api/brindlemere/attempts/${tester.attemptId}/steps/${step}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json', cookie: tester.cookie, origin: baseUrl },
    body: JSON.stringify({ ...toWord(randomUUID()), ...said }),
  });
  if (!response.ok) throw new Error(`a step was refused: ${response.status} ${await response.text()}`);
  await response.arrayBuffer();
}

export interface BenchHouse {
  readonly store: Store;
  readonly server: WebServer;
  readonly lead: Actor;
}

/** A database of the demo, usual or big, and a server of its own; both are gone afterwards. */
export async function inBenchHouse<Answer>(
  serverUrl: string,
  size: BigSize | undefined,
  work: (house: BenchHouse) => Promise<Answer>,
): Promise<Answer> {
  const url = new URL(serverUrl);
  const maker = createStore({ url: serverUrl });
  await maker.pool.query('drop database if exists kindred_baton_bench with (force)');
  await maker.pool.query('create database kindred_baton_bench');
  url.pathname = '/kindred_baton_bench';
  const store = createStore({ url: url.toString() });
  await migrateStore(store);
  await seedDemo(store, DEMO_PASSWORD_HASH, size);
  await store.pool.query('vacuum analyze');
  const server = await startWebServer(url.toString(), undefined, { LOG_LEVEL: 'error' });
  try {
    const [lea] = await store.db.select({ id: people.id }).from(people).where(eq(people.name, 'Lea Marsh'));
    return await work({ store, server, lead: await getActor(store, lea?.id as never, 'brindlemere') });
  } finally {
    await server.stop();
    await store.pool.end();
    await maker.pool.query('drop database if exists kindred_baton_bench with (force)');
    await maker.pool.end();
  }
}
