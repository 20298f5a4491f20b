import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { LEASE_MS } from '@kindred-baton/core/runners/runner';
import type { AttemptId, PersonId, TurnId } from '@kindred-baton/core/ids';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getPlan } from '../cycles/get-plan.ts';
import { staffCycle } from '../cycles/staff-cycle.ts';
import type { Store } from '../database.ts';
import { keepEvidence } from '../evidence/keep-evidence.ts';
import type { Operation } from '../operation.ts';
import { perform } from '../operation.ts';
import { getSetUp } from '../programmes/get-set-up.ts';
import { listDemoAccounts } from '../programmes/get-viewer.ts';
import { checkRuns } from '../runs/check-runs.ts';
import { runners } from '../schema/runners.ts';
import { history } from '../schema/history.ts';
import { attempts, leases, stepResults } from '../schema/turns.ts';
import { handOver } from '../turns/change-hands.ts';
import { getGuide } from '../turns/get-guide.ts';
import { getTurnsHome } from '../turns/get-turns-home.ts';
import { finishAttempt, recordStep, startAttempt } from '../turns/make-attempts.ts';
import { breakOffExpired } from './break-off.ts';
import { getRunners } from './get-runners.ts';
import { getWork } from './get-work.ts';
import { hearRunner, partRunner } from './hear-runner.ts';
import { addPool, listPools, removePool } from './pools.ts';
import { addRunner, findRunner, orderRunner, retireRunner } from './runners.ts';
import { listReady, takeTurn } from './take-turn.ts';

const ALWAYS = { days: [1, 2, 3, 4, 5, 6, 7], opensAt: 0, closesAt: 1_440 };

describe('runners', () => {
  let db: TestStore;
  let lead: Actor;
  let pool: PersonId;
  let token: string;
  let runner: Actor;
  const about = { instance: randomUUID(), machine: 'desk-4', sessions: 2 };
  /** The server's clock, moved on where a test waits. */
  let aheadMs = 0;
  let store: Store;

  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
    store = { ...db.store, now: () => new Date(Date.now() + aheadMs) };
    pool = (await db.perform(lead, addPool, { name: 'Night shift', ...ALWAYS })).id;
    const added = await db.perform(lead, addRunner, { poolId: pool, name: 'north-1' });
    token = added.token;
    runner = (await findRunner(db.store, token))!;
  });
  afterAll(() => db.drop());

  const asRunner = <Input, Output>(operation: Operation<Input, Output>, input: Input) => perform(store, runner, operation, input);
  const give = async (count: number): Promise<TurnId[]> => {
    const plan = await db.ask(lead, getPlan, 'ACC-2');
    const ready = plan.turns.filter(({ status, person }) => status === 'ready' && person !== pool).slice(0, count);
    await db.perform(lead, staffCycle, { code: 'ACC-2', staff: { kind: 'give', turns: ready.map(({ id }) => id), personId: pool } });
    return ready.map(({ id }) => id);
  };
  const take = async () => asRunner(takeTurn, { about, ready: await db.ask(runner, listReady, undefined), browser: 'Chromium' });
  const takeOne = async () => {
    const { taken } = await asRunner(takeTurn, { about, ready: await give(1), browser: 'Chromium' });
    if (!taken) throw new Error('Nothing was handed out.');
    return taken;
  };
  const say = (attemptId: AttemptId, stepIndex: number, outcome: 'passed' | 'failed' | 'blocked', more: object = {}, by = runner) =>
    perform(store, by, recordStep, {
      ...{ attemptId, stepIndex },
      word: { wordId: randomUUID(), outcome, note: '', at: store.now().toISOString(), kept: '77', ...more },
    });
  const hear = (working: readonly AttemptId[] = []) =>
    asRunner(hearRunner, { ...about, problem: '', working: working.map((attempt) => ({ attempt, step: 1 })) });
  const guideOf = (turnId: TurnId) => db.ask(lead, getGuide, turnId);

  it('are let in by a token that is shown once, kept as a hash, and opens one programme', async () => {
    const [row] = await db.store.db.select().from(runners).where(eq(runners.name, 'north-1'));
    expect(token).toMatch(/^kbr_[\w-]{43}$/);
    expect(JSON.stringify(row)).not.toContain(token.slice(4));
    expect(runner).toMatchObject({ personId: pool, programmeKey: 'brindlemere', roles: ['tester'], runnerId: row?.id });
    expect(await findRunner(db.store, `${token}x`)).toBeUndefined();
    expect(JSON.stringify(await db.store.db.select().from(history).where(eq(history.action, 'runner added')))).not.toContain(token);
  });

  it('are no people: no list of people shows their pool, nor does the sign-in page', async () => {
    expect((await db.ask(lead, getSetUp, undefined)).people.map(({ name }) => name)).not.toContain('Night shift');
    expect((await listDemoAccounts(db.store)).map(({ name }) => name)).not.toContain('Night shift');
    expect((await db.ask(lead, listPools, undefined)).pools.map(({ name }) => name)).toContain('Night shift');
  });

  it('take a turn, say how each step went, and finish it; whose word it is stands beside each step', async () => {
    const { turnId, attemptId } = await takeOne();
    const work = await db.ask(runner, getWork, { attemptId, fromStep: 0 });
    expect(work).toMatchObject({
      attempt: attemptId,
      turn: turnId,
      fromStep: 0,
      environment: 'Rehearsal',
      account: null,
      accounts: [],
    });
    expect(work.steps.length).toBeGreaterThan(1);
    const seen = { expected: '“Saved”', actual: 'Gone', unlooked: '', tookMs: 120 };
    await say(attemptId, 0, 'failed', { seen });
    await asRunner(finishAttempt, attemptId);
    const guide = await guideOf(turnId);
    expect(guide.attempts[0]).toMatchObject({ person: 'Night shift', runner: 'north-1', isWithRunners: true, outcome: 'failed' });
    expect(guide.attempts[0]?.results[0]).toMatchObject({ ...seen, by: 'north-1', isByRunner: true });
    expect((await db.ask(lead, getRunners, undefined)).toLookAt).toContainEqual(
      expect.objectContaining({ turn: turnId, outcome: 'failed' }),
    );
    expect(await db.store.db.select().from(leases).where(eq(leases.attemptId, attemptId))).toEqual([]);
  });

  it('are handed each turn once, however many ask at the same moment', async () => {
    await give(4);
    const ready = await db.ask(runner, listReady, undefined);
    const all = await Promise.all(Array.from({ length: 8 }, () => asRunner(takeTurn, { about, ready, browser: '' })));
    const taken = all.flatMap(({ taken: one }) => one?.attemptId ?? []);
    expect([taken.length, new Set(taken).size]).toEqual([ready.length, ready.length]);
    await asRunner(partRunner, { instance: about.instance });
  });

  it('that are not heard of lose their turn: it is given out again, and the second time in a row it waits for somebody', async () => {
    const { turnId, attemptId } = await takeOne();
    await say(attemptId, 0, 'passed');
    aheadMs += LEASE_MS - 1_000;
    expect((await hear([attemptId])).stop).toEqual([]);
    expect(await breakOffExpired(store)).toBe(0);
    aheadMs += LEASE_MS + 1_000;
    expect(await breakOffExpired(store)).toBe(1);
    expect(await guideOf(turnId)).toMatchObject({ turn: { state: 'ready' }, attempts: [{ outcome: 'blocked', canContinue: true }] });
    expect((await hear([attemptId])).stop).toEqual([attemptId]);
    await expect(say(attemptId, 1, 'passed')).rejects.toThrow('not with this runner any more');
    const again = await asRunner(takeTurn, { about, ready: [turnId], browser: 'Chromium' });
    expect(again.taken?.turnId).toBe(turnId);
    aheadMs += LEASE_MS + 1_000;
    await breakOffExpired(store);
    const guide = await guideOf(turnId);
    expect(guide).toMatchObject({ turn: { state: 'done', status: 'blocked' }, attempts: [{ number: 2 }, { number: 1 }] });
    expect(guide.turn.stoppedBy?.words).toContain('second time in a row');
    expect((await db.ask(lead, getRunners, undefined)).toLookAt).toContainEqual(
      expect.objectContaining({ turn: turnId, outcome: 'blocked' }),
    );
  });

  it('lose nothing that they saw before they were broken off, when it comes after', async () => {
    const { attemptId } = await takeOne();
    const at = store.now().toISOString();
    aheadMs += LEASE_MS + 1_000;
    await breakOffExpired(store);
    await say(attemptId, 0, 'passed', { at });
    const picture = { name: 'step 1.jpg', mediaType: 'image/jpeg', content: Buffer.from('jpeg') };
    await asRunner(keepEvidence, { ...picture, id: randomUUID() as never, attemptId, stepIndex: 0 });
    const [first] = await db.store.db.select().from(stepResults).where(eq(stepResults.attemptId, attemptId));
    expect(first).toMatchObject({ stepIndex: 0, outcome: 'passed' });
    const [attempt] = await db.store.db.select().from(attempts).where(eq(attempts.id, attemptId));
    expect(attempt).toMatchObject({ outcome: 'blocked', isAbandoned: true });
  });

  it('that were given a turn whose answer never came to them give it back when they are next heard of', async () => {
    const { attemptId } = await takeOne();
    await hear();
    expect(await db.store.db.select().from(leases).where(eq(leases.attemptId, attemptId))).toHaveLength(1);
    aheadMs += 11_000;
    await hear();
    expect(await db.store.db.select().from(leases).where(eq(leases.attemptId, attemptId))).toEqual([]);
  });

  it('are stopped in the middle: whoever takes it over goes on with what was done, and gives the rest back', async () => {
    const { turnId, attemptId } = await takeOne();
    await say(attemptId, 0, 'passed');
    await perform(store, lead, handOver, { attemptId, personId: lead.personId, word: '' });
    expect((await hear([attemptId])).stop).toEqual([attemptId]);
    await expect(say(attemptId, 1, 'passed')).rejects.toThrow();
    await say(attemptId, 1, 'passed', {}, lead);
    await perform(store, lead, handOver, { attemptId, personId: pool, word: 'The rest is yours.' });
    // Whoever gave it back waits: it comes before all others.
    const { taken } = await take();
    expect(taken).toEqual({ turnId, attemptId, fromStep: 2 });
    expect((await db.ask(runner, getWork, { attemptId, fromStep: 2 })).kept).toBeDefined();
    expect((await guideOf(turnId)).attempts[0]?.results.map(({ by }) => by)).toEqual(['north-1', 'Lea Marsh']);
    await asRunner(partRunner, { instance: about.instance });
  });

  it('that could not do a step leave it to a person, who goes on from there with the steps and pictures of the runner', async () => {
    const { turnId, attemptId } = await takeOne();
    await say(attemptId, 0, 'passed');
    const picture = { name: 'step 1.jpg', mediaType: 'image/jpeg', content: Buffer.from('jpeg') };
    await asRunner(keepEvidence, { ...picture, id: randomUUID() as never, attemptId, stepIndex: 0 });
    await say(attemptId, 1, 'blocked', { note: 'There is no “Save”.' });
    await asRunner(finishAttempt, attemptId);
    const plan = await db.ask(lead, getPlan, 'ACC-2');
    const team = plan.turns.find((turn) => turn.id === turnId)?.team;
    const mate = plan.people.find(({ teams }) => teams.includes(team ?? ''))?.name ?? '';
    const home = await db.ask(await db.actorOf(mate), getTurnsHome, undefined);
    expect(home.leftByRunners.map((card) => card.id)).toContain(turnId);
    expect(home.stopped.map((card) => card.id)).not.toContain(turnId);
    const id = randomUUID() as AttemptId;
    await perform(store, lead, startAttempt, { turnId, id, browser: 'B', continues: attemptId });
    await perform(store, lead, startAttempt, { turnId, id, browser: 'B', continues: attemptId });
    const [own] = (await guideOf(turnId)).attempts;
    expect(own).toMatchObject({ id, number: 2, person: 'Lea Marsh', seed: attemptId, evidence: [{ name: 'step 1.jpg' }] });
    expect(own?.results.map(({ stepIndex, by }) => `${stepIndex} ${by}`)).toEqual(['0 north-1']);
  });

  it('do as they are told: none works that is to pause, and one that is stopped leaves what it does', async () => {
    const { turnId } = await takeOne();
    const id = runner.runnerId!;
    await perform(store, lead, orderRunner, { id, order: 'stop' });
    expect(await guideOf(turnId)).toMatchObject({ turn: { state: 'ready' } });
    expect(await take()).toMatchObject({ order: 'stop', taken: null });
    await perform(store, lead, orderRunner, { id, order: 'drain' });
    expect((await hear()).order).toBe('drain');
    expect((await take()).taken).toBeNull();
    await perform(store, lead, orderRunner, { id, order: 'work' });
    expect((await asRunner(takeTurn, { about, ready: [turnId], browser: '' })).taken?.turnId).toBe(turnId);
  });

  it('share no token: while one is heard of, another process is refused, and comes in when it has ended', async () => {
    await hear();
    const other = { ...about, instance: randomUUID(), machine: 'desk-5' };
    const ask = () => asRunner(hearRunner, { ...other, problem: '', working: [] });
    await expect(ask()).rejects.toThrow(/The token of north-1 is used by another process on desk-4/);
    aheadMs += LEASE_MS + 1_000;
    await ask();
    await expect(hear()).rejects.toThrow('on desk-5');
    aheadMs += LEASE_MS + 1_000;
    await hear();
  });

  it('take nothing outside of their pool’s hours', async () => {
    const hour = new Date(store.now()).getUTCHours();
    const closed = { days: [1, 2, 3, 4, 5, 6, 7], opensAt: ((hour + 12) % 24) * 60, closesAt: ((hour + 12) % 24) * 60 + 30 };
    const other = (await db.perform(lead, addPool, { name: 'Never now', ...closed })).id;
    const added = await db.perform(lead, addRunner, { poolId: other, name: 'far-1' });
    const asleep = (await findRunner(db.store, added.token))!;
    const plan = await db.ask(lead, getPlan, 'ACC-2');
    const turn = plan.turns.find(({ status, person }) => status === 'ready' && person !== pool)!;
    await db.perform(lead, staffCycle, { code: 'ACC-2', staff: { kind: 'give', turns: [turn.id], personId: other } });
    const ready = await db.ask(asleep, listReady, undefined);
    const came = await perform(store, asleep, takeTurn, { about: { ...about, instance: randomUUID() }, ready, browser: '' });
    expect([ready, came.taken]).toEqual([[turn.id], null]);
    const view = (await db.ask(lead, getRunners, undefined)).pools.find(({ id }) => id === other);
    expect(view).toMatchObject({ isOpen: false, queue: [{ turn: turn.id, kind: 'ready' }] });
    expect(new Date(view!.queue[0]!.from!).getTime()).toBeGreaterThan(Date.now() + 3_600_000);
    await db.perform(lead, removePool, other);
    expect((await guideOf(turn.id)).turn.assignee).toBeNull();
    expect(await findRunner(db.store, added.token)).toBeUndefined();
  });

  it('that are retired are refused at once, and what they do is given out again', async () => {
    const taken = await takeOne();
    await perform(store, lead, retireRunner, runner.runnerId!);
    expect(await findRunner(db.store, token)).toBeUndefined();
    await expect(hear()).rejects.toThrow('This token was withdrawn.');
    expect((await guideOf(taken.turnId)).turn.state).toBe('ready');
    await expect(perform(store, lead, orderRunner, { id: runner.runnerId!, order: 'work' })).rejects.toThrow('is retired');
  });

  it('leave every turn where its attempts say', async () => {
    expect(await checkRuns(db.store.db)).toEqual([]);
  });
});
