/** What the queue of runners costs: how soon a turn that becomes ready is begun by a runner that waits, and a thousand turns handed out one after the other. */
import { randomUUID } from 'node:crypto';
import type { PersonId, TurnId } from '@kindred-baton/core/ids';
import { createLeg } from '@kindred-baton/core/scenarios/scenario-document';
import type { Actor } from '@kindred-baton/store/actor';
import { getActor } from '@kindred-baton/store/actor';
import { createCycle } from '@kindred-baton/store/cycles/change-cycles';
import { getCycleScope } from '@kindred-baton/store/cycles/get-cycle-scope';
import { getPlan } from '@kindred-baton/store/cycles/get-plan';
import { moveCycle } from '@kindred-baton/store/cycles/move-cycle';
import { staffCycle } from '@kindred-baton/store/cycles/staff-cycle';
import type { Store } from '@kindred-baton/store/database';
import { ask, perform } from '@kindred-baton/store/operation';
import { getChoices } from '@kindred-baton/store/programmes/get-viewer';
import { getRunners } from '@kindred-baton/store/runners/get-runners';
import { addPool } from '@kindred-baton/store/runners/pools';
import { addRunner, findRunner } from '@kindred-baton/store/runners/runners';
import { listReady, takeTurn } from '@kindred-baton/store/runners/take-turn';
import { createScenario } from '@kindred-baton/store/scenarios/change-scenarios';
import { editScenario } from '@kindred-baton/store/scenarios/edit-scenario';
import { people } from '@kindred-baton/store/schema/people';
import { attempts } from '@kindred-baton/store/schema/turns';
import { agreeTest, createTest, saveTest } from '@kindred-baton/store/tests/change-tests';
import { startAttempt } from '@kindred-baton/store/turns/make-attempts';
import { and, eq, isNotNull } from 'drizzle-orm';
import type { RunnerHouse } from '../tests/support/runner-house.ts';
import { openRunnerHouse } from '../tests/support/runner-house.ts';
import { createTestStore } from '../tests/support/test-store.ts';
import { setup } from '../tests/support/template-databases.ts';
import type { Figure } from './bench-figure.ts';
import { median } from './bench-figure.ts';

const BEGINS = 11;
const QUEUED = 1_000;
const BY_PEOPLE = 200;
/** As often as the server works out anew what is ready (web/server/answers/runners/answer-work.ts). */
const READY_LASTS_MS = 3_000;
const LOOKED_AT = 20;

export async function benchQueue(databaseUrl: string): Promise<Figure[]> {
  process.env['KINDRED_BATON_TEST_SERVER'] ??= databaseUrl;
  await setup();
  const house = await openRunnerHouse();
  try {
    const [person] = await house.store.db.select().from(people).where(eq(people.name, 'Lea Marsh'));
    const lead = await getActor(house.store, person!.id, 'brindlemere');
    return [await benchBeginning(house, lead), ...(await benchHandingOut())];
  } finally {
    await house.close();
  }
}

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** A runner of one session waits; turns become its own, one after the other is done. */
async function benchBeginning({ store, startRunner }: RunnerHouse, lead: Actor): Promise<Figure> {
  const pool = (await ask(store, lead, getRunners, undefined)).pools[0]!.id;
  const plan = await ask(store, lead, getPlan, 'ACC-2');
  const ready = plan.turns.filter(({ status }) => status === 'ready').slice(0, BEGINS);
  const runner = startRunner({ KINDRED_BATON_RUNNER_SESSIONS: '1', KINDRED_BATON_RUNNER_PATIENCE_SECONDS: '2' });
  while ((await ask(store, lead, getRunners, undefined)).runners[0]?.state !== 'idle') await sleep(100);
  const times: number[] = [];
  for (const { id } of ready) {
    await perform(store, lead, staffCycle, { code: 'ACC-2', staff: { kind: 'give', turns: [id], personId: pool } }, ['turns', 'cycles']);
    const from = Date.now();
    times.push((await untilEnded(store, id)).getTime() - from);
    // Its session looks for the next one.
    await sleep(500);
  }
  await runner.end();
  return {
    ...{ name: 'a turn begins on a runner that waits', value: median(times), bound: 300, unit: 'ms' },
    note: `${times.length} turns, from when they were given; the slowest ${Math.max(...times)} ms`,
  };
}

/** When its attempt began, told when it has ended. */
async function untilEnded({ db }: Store, turnId: TurnId): Promise<Date> {
  for (;;) {
    const [made] = await db
      .select({ startedAt: attempts.startedAt })
      .from(attempts)
      .where(and(eq(attempts.turnId, turnId), isNotNull(attempts.runnerId), isNotNull(attempts.finishedAt)));
    if (made) return made.startedAt;
    await sleep(50);
  }
}

/** A thousand turns to one runner; beside it what beginning an attempt costs where nobody hands it out. */
async function benchHandingOut(): Promise<Figure[]> {
  // No server looks at it, which would give out again what nobody is heard of for so long.
  const own = await createTestStore('demo');
  const { store } = own;
  const lead = await own.actorOf('Lea Marsh');
  const pool = (await perform(store, lead, addPool, { name: 'Bench', days: [1, 2, 3, 4, 5, 6, 7], opensAt: 0, closesAt: 1_440 })).id;
  const { token } = await perform(store, lead, addRunner, { poolId: pool, name: 'bench-1' });
  const runner = (await findRunner(store, token))!;
  const turns = await layTurns(store, lead, pool);
  const wanted = await ask(store, runner, listReady, undefined);
  const alone: number[] = [];
  for (const turnId of turns.people) {
    const from = performance.now();
    await perform(store, lead, startAttempt, { turnId, id: randomUUID() as never, browser: 'bench' });
    alone.push(performance.now() - from);
  }
  const { handed, ms } = await handOut(store, runner);
  const inOrder = handed.filter((id, index) => id === wanted[index]).length;
  await own.drop();
  const cost = ms / handed.length - alone.reduce((sum, one) => sum + one, 0) / alone.length;
  return [
    {
      ...{ name: 'the queue’s own cost of a turn', value: cost, bound: 5, unit: 'ms' },
      note: `${handed.length} turns in ${(ms / 1_000).toFixed(1)} s; beginning one by itself ${median(alone).toFixed(1)} ms`,
    },
    { name: 'turns of a thousand not in the order of the plan', value: QUEUED - inOrder, bound: 0, unit: '', note: '' },
  ];
}

/** As the server does it for a session that asks again and again. */
async function handOut(store: Store, runner: Actor): Promise<{ handed: readonly TurnId[]; ms: number }> {
  const about = { instance: randomUUID(), machine: 'bench', sessions: 64 };
  const handed: TurnId[] = [];
  const from = performance.now();
  let ready = await ask(store, runner, listReady, undefined);
  let listedAt = performance.now();
  for (;;) {
    if (performance.now() - listedAt > READY_LASTS_MS || ready.length === 0) {
      ready = await ask(store, runner, listReady, undefined);
      listedAt = performance.now();
    }
    const { taken, over } = await perform(store, runner, takeTurn, { about, ready: ready.slice(0, LOOKED_AT), browser: 'bench' });
    if (!taken) return { handed, ms: performance.now() - from };
    handed.push(taken.turnId);
    const gone = new Set(over);
    ready = ready.filter((id) => !gone.has(id));
  }
}

async function layTurns(store: Store, lead: Actor, pool: PersonId): Promise<{ people: readonly TurnId[] }> {
  const count = QUEUED + BY_PEOPLE;
  await perform(store, lead, createTest, { code: 'QUEUE', name: 'Short', node: 'NS-2.1', teamId: null, applicationId: null });
  await perform(store, lead, saveTest, {
    code: 'QUEUE',
    save: {
      base: { number: 1, revision: 1 },
      name: 'Short',
      minutes: 5,
      steps: [{ do: 'see', target: 'A line' }],
      needs: [],
      gives: [],
      rows: [],
    },
  });
  await perform(store, lead, agreeTest, { code: 'QUEUE', number: 1, revision: 2 });
  await perform(store, lead, createScenario, { code: 'QUEUE-S', name: 'Short', node: 'NS' });
  const rows = Array.from({ length: count }, (_, i) => ({
    kind: 'add row',
    row: { id: randomUUID(), name: `Row ${i}`, values: {} },
    before: null,
  }));
  await perform(store, lead, editScenario, {
    code: 'QUEUE-S',
    edits: [{ kind: 'add leg', leg: createLeg({ id: randomUUID(), test: 'QUEUE' }), before: null }, ...rows] as never,
  });
  const scenario = (await ask(store, lead, getCycleScope, undefined)).scenarios.find(({ code }) => code === 'QUEUE-S')!;
  const { environments } = await ask(store, lead, getChoices, undefined);
  await perform(store, lead, createCycle, {
    ...{ code: 'QUEUE-C', name: 'Queue', purpose: 'smoke', environmentId: environments[0]?.id as never },
    ...{
      startsOn: '2026-11-02',
      endsOn: '2026-12-30',
      scope: [{ scenarioId: scenario.id as never, rowIds: scenario.rows.map(({ id }) => id) }],
    },
  });
  await perform(store, lead, moveCycle, { code: 'QUEUE-C', from: 'planning', to: 'open' });
  const { turns } = await ask(store, lead, getPlan, 'QUEUE-C');
  const ids = turns.map(({ id }) => id);
  await perform(store, lead, staffCycle, { code: 'QUEUE-C', staff: { kind: 'give', turns: ids.slice(0, QUEUED), personId: pool } });
  return { people: ids.slice(QUEUED) };
}
