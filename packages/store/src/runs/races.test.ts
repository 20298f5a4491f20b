import { randomUUID } from 'node:crypto';
import type { AttemptId, DefectId, TurnId } from '@kindred-baton/core/ids';
import { and, eq, isNull } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { createCycle } from '../cycles/change-cycles.ts';
import { getCycle } from '../cycles/get-cycle.ts';
import { getCycleScope } from '../cycles/get-cycle-scope.ts';
import { listRunEnds } from '../cycles/list-runs.ts';
import { getPlan } from '../cycles/get-plan.ts';
import { moveCycle } from '../cycles/move-cycle.ts';
import { logDefect, moveDefect } from '../defects/change-defects.ts';
import { savePerson } from '../programmes/change-people.ts';
import { getChoices } from '../programmes/get-viewer.ts';
import { members } from '../schema/programmes.ts';
import { attempts, stepResults, turns } from '../schema/turns.ts';
import { finishAttempt, recordStep, startAttempt } from '../turns/make-attempts.ts';
import { checkRuns } from './check-runs.ts';

/** Two at the same moment, again and again: whoever comes second sees what the first did. */
describe('two at once', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const begin = (turnId: TurnId, id = randomUUID() as AttemptId) => db.perform(lead, startAttempt, { turnId, id, browser: '' });
  const record = (attemptId: AttemptId, stepIndex: number, outcome: 'passed' | 'failed' | 'skipped', at = Date.now()) =>
    db.perform(lead, recordStep, {
      attemptId,
      stepIndex,
      word: { wordId: randomUUID(), outcome, note: 'Seen.', kept: '', at: new Date(at).toISOString() },
    });
  /** The first step as it is said, the others left out. */
  const tellAll = async (attemptId: AttemptId, first: 'passed' | 'failed') => {
    await record(attemptId, 0, first);
    for (let step = 1; step < 40; step += 1)
      if (
        !(await record(attemptId, step, 'skipped').then(
          () => true,
          () => false,
        ))
      )
        break;
  };
  const listOpen = (turnId: TurnId) =>
    db.store.db
      .select()
      .from(attempts)
      .where(and(eq(attempts.turnId, turnId), isNull(attempts.finishedAt)));

  it('a turn that is just passing is not begun again', async () => {
    const ready = (await db.ask(lead, getPlan, 'ACC-2')).turns.filter(({ status }) => status === 'ready').slice(0, 10);
    let passed = 0;
    for (const { id } of ready) {
      const first = randomUUID() as AttemptId;
      await begin(id, first);
      await tellAll(first, 'passed');
      const [finished, again] = await Promise.allSettled([db.perform(lead, finishAttempt, first), begin(id)]);
      if (finished.status === 'rejected') continue;
      passed += 1;
      expect(again.status).toBe('rejected');
      expect(await listOpen(id)).toEqual([]);
    }
    expect(passed).toBeGreaterThan(4);
  });

  it('a retest is not begun in a cycle that is just closed; a later fix leaves the figures of that cycle as they were', async () => {
    const environmentId = (await db.ask(lead, getChoices, undefined)).environments[0]?.id as never;
    const scenario = (await db.ask(lead, getCycleScope, undefined)).scenarios.find(({ code }) => code === 'LR-S3');
    for (let round = 1; round <= 6; round += 1) {
      const code = `RACE-${round}`;
      await db.perform(lead, createCycle, {
        ...{ code, name: code, purpose: 'smoke', startsOn: '2026-11-02', endsOn: '2026-12-04', environmentId },
        scope: [{ scenarioId: scenario?.id as never, rowIds: [scenario?.rows[0]?.id as never] }],
      } as never);
      await db.perform(lead, moveCycle, { code, from: 'planning', to: 'open' });
      const [turn] = (await db.ask(lead, getPlan, code)).turns;
      const id = turn?.id as TurnId;
      const attempt = randomUUID() as AttemptId;
      await begin(id, attempt);
      await tellAll(attempt, 'failed');
      const words = { title: 'Wrong', kind: 'function', severity: 'hinders', priority: 'low', expected: '', seen: 'No' } as const;
      const { code: defect } = await db.perform(lead, logDefect, {
        ...{ id: randomUUID() as DefectId, attemptId: attempt, stepIndex: 0, ...words },
      });
      await db.perform(lead, finishAttempt, attempt);
      await db.perform(lead, moveDefect, { code: defect, move: { from: 'new', to: 'fixed', reason: '' } });
      await db.perform(lead, moveCycle, { code, from: 'open', to: 'closing' });
      const { runs } = await db.ask(lead, listRunEnds, code);
      const left = runs.map(({ id: runId }) => ({ runId, to: 'dropped' as const, reason: 'No time.' }));
      const close = () => db.perform(lead, moveCycle, { code, from: 'closing', to: 'closed', left });
      const [closed, retest] = await Promise.allSettled(round % 2 === 0 ? [close(), begin(id)] : [begin(id), close()].reverse());
      const { state, counts } = await db.ask(lead, getCycle, code);
      expect((await listOpen(id)).length).toBe(state === 'closed' ? 0 : 1);
      expect([closed, retest].filter((one) => one?.status === 'fulfilled')).toHaveLength(1);
      if (state !== 'closed') continue;
      await db.perform(lead, moveDefect, { code: defect, move: { from: 'fixed', to: 'accepted', reason: '' } });
      await db.perform(lead, moveDefect, { code: defect, move: { from: 'accepted', to: 'fixed', reason: '' } });
      expect((await db.ask(lead, getCycle, code)).counts).toEqual(counts);
      const rows = await db.store.db.select({ state: turns.state }).from(turns).where(eq(turns.id, id));
      expect(rows.map((row) => row.state)).not.toContain('ready');
    }
    expect(await checkRuns(db.store.db)).toEqual([]);
  });

  it('of two entries at one step the later one stays, whichever comes first', async () => {
    const turn = (await db.ask(lead, getPlan, 'ACC-2')).turns.find(({ status }) => status === 'ready');
    const attempt = randomUUID() as AttemptId;
    await begin(turn?.id as TurnId, attempt);
    const now = Date.now();
    for (let round = 0; round < 8; round += 1) {
      const at = now + 10 * round;
      await Promise.allSettled([record(attempt, 0, 'failed', at), record(attempt, 0, 'skipped', at + 5)]);
      const [row] = await db.store.db.select().from(stepResults).where(eq(stepResults.attemptId, attempt));
      expect(row?.outcome).toBe('skipped');
    }
    await expect(record(attempt, 0, 'failed', now)).rejects.toThrow('Something later is recorded');
  });

  it('of two leads who take the role from each other, one stays', async () => {
    const other = await db.actorOf('Edda Quill');
    const give = (personId: Actor['personId'], roles: ('lead' | 'tester')[]) =>
      db.perform(lead, savePerson, { personId, person: { roles, teams: [], absences: [] } });
    for (let round = 0; round < 8; round += 1) {
      await db.store.db
        .update(members)
        .set({ roles: ['lead'] })
        .where(eq(members.personId, lead.personId));
      await db.store.db
        .update(members)
        .set({ roles: ['lead'] })
        .where(eq(members.personId, other.personId));
      const given = await Promise.allSettled([give(lead.personId, ['tester']), give(other.personId, ['tester'])]);
      expect(given.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    }
  });
});
