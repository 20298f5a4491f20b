import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TrialResult } from '@kindred-baton/contracts/runners/trial';
import type { AttemptId, PersonaId, TrialId } from '@kindred-baton/core/ids';
import { HANDED_OUT_MS, LEASE_MS } from '@kindred-baton/core/runners/runner';
import type { Step } from '@kindred-baton/core/tests/step';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import type { Store } from '../database.ts';
import type { Operation, Query } from '../operation.ts';
import { ask, perform } from '../operation.ts';
import { getSetUp } from '../programmes/get-set-up.ts';
import { checkRuns } from '../runs/check-runs.ts';
import { getTest } from '../tests/get-test.ts';
import { hearRunner } from './hear-runner.ts';
import { addPool } from './pools.ts';
import { addRunner, findRunner } from './runners.ts';
import { askTrial, finishTrial, getTrial, getTrialPicture, getTrialWork, recordTrial, stopTrial, takeTrial } from './trials.ts';

const STEPS: readonly Step[] = [
  { do: 'go', target: 'Quotes', within: 'Millrace Billing' },
  { do: 'fill', target: 'Survey number', value: '{Survey no.}' },
];
const PASSED: TrialResult = { outcome: 'passed', note: '', expected: '', actual: '', unlooked: '', tookMs: 12, kept: null };

describe('trials of what is being written', () => {
  let db: TestStore;
  let lead: Actor;
  let runner: Actor;
  let store: Store;
  let aheadMs = 0;
  let place: { testId: never; environmentId: never };
  const about = { instance: randomUUID(), machine: 'desk-4', sessions: 2 };
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Edda Quill');
    store = { ...db.store, now: () => new Date(Date.now() + aheadMs) };
    const setter = await db.actorOf('Lea Marsh');
    const pool = await db.perform(setter, addPool, { name: 'Night shift', days: [1], opensAt: 0, closesAt: 2 });
    runner = (await findRunner(db.store, (await db.perform(setter, addRunner, { poolId: pool.id, name: 'north-1' })).token))!;
    const { environments } = await db.ask(setter, getSetUp, undefined);
    const test = await db.ask(setter, getTest, { code: 'BIL-01' });
    place = { testId: test.id as never, environmentId: environments[0]!.id as never };
  });
  afterAll(() => db.drop());

  const as = <Input, Output>(who: Actor, operation: Operation<Input, Output>, input: Input) => perform(store, who, operation, input);
  const look = <Input, Output>(query: Query<Input, Output>, input: Input, who = lead) => ask(store, who, query, input);
  const askOne = async () => {
    const id = randomUUID() as TrialId;
    await as(lead, askTrial, {
      id,
      ...place,
      personaId: null as PersonaId | null,
      steps: [...STEPS],
      gives: [],
      values: { 'Survey no.': 'SV-1' },
    });
    return id;
  };
  const hear = (working: readonly TrialId[]) =>
    as(runner, hearRunner, { ...about, problem: '', working: working.map((id) => ({ attempt: id as unknown as AttemptId, step: 0 })) });

  it('wait, are taken by the next session that is free whatever its pool’s hours, and show each step as it ends', async () => {
    const id = await askOne();
    expect(await look(getTrial, id)).toMatchObject({ state: 'waiting', isHeard: false, results: [] });
    expect(await as(runner, takeTrial, about)).toBe(id);
    expect(await as(runner, takeTrial, about)).toBeNull();
    const work = await look(getTrialWork, id, runner);
    expect(work).toMatchObject({ isTrial: true, attempt: id, turn: null, steps: STEPS, values: { 'Survey no.': 'SV-1' } });
    await as(runner, recordTrial, { id, result: PASSED, picture: Buffer.from([0xff, 0xd8, 0xff, 0x01]) });
    expect(await look(getTrial, id)).toMatchObject({
      state: 'under way',
      isHeard: true,
      runner: 'north-1',
      results: [PASSED],
      hasPicture: true,
    });
    expect(await look(getTrialPicture, id)).toHaveLength(4);
    await as(runner, recordTrial, { id, result: { ...PASSED, outcome: 'blocked', note: 'Nothing is called so.' }, picture: null });
    await as(runner, finishTrial, id);
    expect(await look(getTrial, id)).toMatchObject({ state: 'ended', results: [{ outcome: 'passed' }, { note: 'Nothing is called so.' }] });
  });

  it('are the runner’s while it is heard of; stopped, they are not, and what it says later is refused', async () => {
    const id = await askOne();
    await as(runner, takeTrial, about);
    expect((await hear([id])).stop).toEqual([]);
    await as(lead, stopTrial, id);
    expect((await hear([id])).stop).toEqual([id]);
    await expect(as(runner, recordTrial, { id, result: PASSED, picture: null })).rejects.toThrow('not with this runner any more');
    expect(await look(getTrial, id)).toMatchObject({ state: 'stopped', results: [] });
  });

  it('are broken off where the runner is not heard of, or has left them', async () => {
    const [lost, left] = [await askOne(), await askOne()];
    await as(runner, takeTrial, about);
    aheadMs += LEASE_MS + 1_000;
    expect((await look(getTrial, lost)).state).toBe('broken off');
    await as(runner, takeTrial, about);
    aheadMs += HANDED_OUT_MS + 1_000;
    await hear([]);
    expect((await look(getTrial, left)).state).toBe('stopped');
  });

  it('are for whoever writes tests, five at a time, and are nothing to turns', async () => {
    const tester = await db.actorOf('Ines Varga');
    const id = randomUUID() as TrialId;
    const given = { id, ...place, personaId: null as PersonaId | null, steps: [...STEPS], gives: [], values: {} };
    await expect(as(tester, askTrial, given)).rejects.toThrow();
    await expect(as({ ...lead, roles: ['author'] } as never, getTrialWork as never, id as never)).rejects.toThrow();
    for (let count = 0; count < 5; count += 1) await askOne();
    await expect(askOne()).rejects.toThrow('5 of your trials wait');
    expect(await checkRuns(db.store.db)).toEqual([]);
  });
});
