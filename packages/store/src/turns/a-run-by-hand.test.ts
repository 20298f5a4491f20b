import { randomUUID } from 'node:crypto';
import type { AttemptId, DefectId, TurnId } from '@kindred-baton/core/ids';
import { and, asc, eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { createCycle } from '../cycles/change-cycles.ts';
import { moveCycle } from '../cycles/move-cycle.ts';
import { getCycleScope } from '../cycles/get-cycle-scope.ts';
import { logDefect, moveDefect } from '../defects/change-defects.ts';
import { getDefect } from '../defects/get-defects.ts';
import { keepEvidence } from '../evidence/keep-evidence.ts';
import { getHolds } from '../progress/get-holds.ts';
import { getChoices } from '../programmes/get-viewer.ts';
import { getActor } from '../actor.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { history } from '../schema/history.ts';
import { attempts, turns } from '../schema/turns.ts';
import { getGuide } from './get-guide.ts';
import { finishAttempt, recordStep, startAttempt } from './make-attempts.ts';

const PNG = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64');
const newAttempt = () => randomUUID() as AttemptId;

describe('a run by hand, through several teams', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
    await planAndOpen();
  });
  afterAll(() => db.drop());

  async function planAndOpen(): Promise<void> {
    const scope = await db.ask(lead, getCycleScope, undefined);
    const choices = await db.ask(lead, getChoices, undefined);
    const scenario = scope.scenarios.find(({ code }) => code === 'NS-S6');
    const environment = choices.environments[0];
    if (!scenario || !environment) throw new Error('The demo has changed.');
    await db.perform(lead, createCycle, {
      ...{ code: 'T-1', name: 'Trial', purpose: 'acceptance', startsOn: '2026-11-02', endsOn: '2026-11-20' },
      environmentId: environment.id as never,
      scope: [{ scenarioId: scenario.id as never, rowIds: scenario.rows.slice(0, 1).map(({ id }) => id) }],
    });
    await db.perform(lead, moveCycle, { code: 'T-1', from: 'planning', to: 'open' });
  }

  const loadTurns = () =>
    db.store.db
      .select({ turn: turns })
      .from(turns)
      .innerJoin(cycles, eq(cycles.id, turns.cycleId))
      .where(eq(cycles.code, 'T-1'))
      .orderBy(asc(turns.index));
  const statuses = async () => (await loadTurns()).map(({ turn }) => turn.status);

  async function testerOf(index: number): Promise<{ actor: Actor; turnId: TurnId }> {
    const { turn } = (await loadTurns())[index] ?? {};
    if (!turn?.assigneeId) throw new Error('Nobody has this turn.');
    return { actor: await getActor(db.store, turn.assigneeId, 'brindlemere'), turnId: turn.id };
  }

  async function begin(index: number): Promise<{ actor: Actor; turnId: TurnId; attemptId: AttemptId; steps: number }> {
    const { actor, turnId } = await testerOf(index);
    const attemptId = newAttempt();
    await db.perform(actor, startAttempt, { turnId, id: attemptId, browser: 'Chromium 156 on Linux' });
    const guide = await db.ask(actor, getGuide, turnId);
    return { actor, turnId, attemptId, steps: guide.version?.steps.length ?? 0 };
  }

  async function record(
    at: { actor: Actor; attemptId: AttemptId },
    stepIndex: number,
    more: Partial<{ outcome: 'passed' | 'failed' | 'blocked' | 'skipped' | null; note: string; kept: string }> = {},
  ) {
    const word = { wordId: randomUUID(), outcome: 'passed' as const, note: '', at: new Date().toISOString(), ...more };
    return db.perform(at.actor, recordStep, { attemptId: at.attemptId, stepIndex, word });
  }

  async function pass(index: number, kept: Readonly<Record<number, string>> = {}) {
    const at = await begin(index);
    for (let step = 0; step < at.steps; step += 1) await record(at, step, kept[step] === undefined ? {} : { kept: kept[step] });
    return { at, finished: await db.perform(at.actor, finishAttempt, at.attemptId) };
  }

  it('has the first turn ready and the others waiting once the cycle is open, with versions pinned', async () => {
    expect(await statuses()).toEqual(['ready', 'waiting', 'waiting', 'waiting', 'waiting']);
    expect((await loadTurns()).every(({ turn }) => turn.versionId !== null && turn.assigneeId !== null && turn.dueOn !== null)).toBe(true);
  });

  it('refuses a turn that is not ready, or is somebody else’s', async () => {
    const { turnId } = await testerOf(1);
    const actor = (await testerOf(1)).actor;
    await expect(db.perform(actor, startAttempt, { turnId, id: newAttempt(), browser: '' })).rejects.toThrow('still waits');
    const other = await db.actorOf('Jory Lind');
    await expect(db.perform(other, startAttempt, { turnId: (await testerOf(0)).turnId, id: newAttempt(), browser: '' })).rejects.toThrow(
      'with somebody else',
    );
  });

  it('checks kept values against their type, and asks for every step before it finishes', async () => {
    const at = await begin(0);
    await expect(record(at, 6, { kept: '12' })).rejects.toThrow('look like AP-90341');
    await expect(db.perform(at.actor, finishAttempt, at.attemptId)).rejects.toThrow('Say first how steps 1, 2, 3, 4, 5, 6, 7 went.');
    for (let step = 0; step < 6; step += 1) await record(at, step);
    await record(at, 6, { kept: 'AP-90341' });
    expect(await db.perform(at.actor, finishAttempt, at.attemptId)).toMatchObject({
      outcome: 'passed',
      next: [{ title: 'Survey the site' }],
    });
    expect(await statuses()).toEqual(['passed', 'ready', 'waiting', 'waiting', 'waiting']);
  });

  it('stores what is sent twice once: attempts, steps, evidence and finishing', async () => {
    const { actor, turnId } = await testerOf(1);
    const id = newAttempt();
    const first = await db.perform(actor, startAttempt, { turnId, id, browser: '' });
    expect(await db.perform(actor, startAttempt, { turnId, id, browser: '' })).toEqual(first);
    const word = { wordId: randomUUID(), outcome: 'passed' as const, note: 'once', at: new Date().toISOString() };
    await db.perform(actor, recordStep, { attemptId: id, stepIndex: 0, word });
    await db.perform(actor, recordStep, { attemptId: id, stepIndex: 0, word });
    const picture = { id: randomUUID() as never, attemptId: id, stepIndex: 0, name: 'seen.png', mediaType: 'image/png', content: PNG };
    await db.perform(actor, keepEvidence, picture);
    await db.perform(actor, keepEvidence, picture);
    for (const step of [1, 2, 3, 4]) await record({ actor, attemptId: id }, step);
    await record({ actor, attemptId: id }, 5, { kept: 'SV-40172' });
    await record({ actor, attemptId: id }, 6, { kept: '14.5' });
    await db.perform(actor, finishAttempt, id);
    expect(await db.perform(actor, finishAttempt, id)).toEqual({ outcome: 'passed', next: [] });
    const guide = await db.ask(actor, getGuide, turnId);
    expect(guide.attempts).toHaveLength(1);
    expect(guide.attempts[0]?.evidence).toHaveLength(1);
    expect(guide.attempts[0]?.kept).toEqual({ 'Survey no.': 'SV-40172', 'Pipe length': '14.5' });
  });

  it('fails a run, holds what lies behind, and says by which defect', async () => {
    const at = await begin(2);
    for (const step of [0, 1, 2, 3, 4]) await record(at, step);
    await record(at, 5, { outcome: 'failed', note: 'The charge of band C' });
    const id = randomUUID() as DefectId;
    const defect = {
      id,
      attemptId: at.attemptId,
      stepIndex: 5,
      title: 'Wrong band',
      kind: 'function' as const,
      severity: 'stops the business' as const,
      priority: 'high' as const,
      expected: 'B',
      seen: 'C',
    };
    const { code } = await db.perform(at.actor, logDefect, defect);
    expect(await db.perform(at.actor, logDefect, defect)).toEqual({ code });
    await db.perform(at.actor, finishAttempt, at.attemptId);
    expect(await statuses()).toEqual(['passed', 'passed', 'failed', 'held', 'held']);
    const told = await db.ask(lead, getDefect, code);
    expect(told.steps[2]).toMatch(/^3\. Fill "Survey number" with "SV-40172"\..*\(passed\)$/);
    expect(told.waiting.turns).toBe(2);
    const next = await testerOf(3);
    expect((await db.ask(next.actor, getGuide, next.turnId)).turn.heldBy).toBe(`${code} must be fixed first (Price the quote)`);
    const { holds } = await db.ask(lead, getHolds, { cycle: ['T-1'] });
    expect(holds.map(({ kind, title, waiting }) => ({ kind, title, waiting }))).toEqual([
      { kind: 'defect', title: 'Wrong band', waiting: 2 },
    ]);
    await expect(db.perform(at.actor, startAttempt, { turnId: at.turnId, id: newAttempt(), browser: '' })).rejects.toThrow(
      `${code} must be fixed first`,
    );
  });

  it('gives the retest back once fixed; when it fails the defect opens again, when it passes it closes', async () => {
    const { turn } = (await loadTurns())[2] ?? {};
    const [defect] = (await db.ask(lead, getGuide, turn?.id as TurnId)).defects;
    const code = defect?.code ?? '';
    await db.perform(lead, moveDefect, { code, move: { from: 'new', to: 'fixed', reason: '' } });
    expect((await loadTurns())[2]?.turn).toMatchObject({ state: 'ready', status: 'failed', isRetestDue: true });
    const again = await begin(2);
    await record(again, 0, { outcome: 'failed', note: 'still' });
    await db.perform(again.actor, finishAttempt, again.attemptId);
    expect((await db.ask(lead, getDefect, code)).status).toBe('accepted');
    await db.perform(lead, moveDefect, { code, move: { from: 'accepted', to: 'fixed', reason: '' } });
    await pass(2, { 7: 'QT-77120', 8: '256.25' });
    expect((await db.ask(lead, getDefect, code)).status).toBe('closed');
    expect(await statuses()).toEqual(['passed', 'passed', 'passed', 'ready', 'waiting']);
    const kept = await db.store.db
      .select({ number: attempts.number, outcome: attempts.outcome })
      .from(attempts)
      .where(eq(attempts.turnId, turn?.id as TurnId))
      .orderBy(asc(attempts.number));
    expect(kept.map(({ outcome }) => outcome)).toEqual(['failed', 'failed', 'passed']);
  });

  it('ends the run, and every change is in the history with who and when', async () => {
    await pass(3);
    await pass(4);
    const [run] = await db.store.db
      .select({ outcome: runs.outcome })
      .from(runs)
      .innerJoin(cycles, eq(cycles.id, runs.cycleId))
      .where(eq(cycles.code, 'T-1'));
    expect(run?.outcome).toBe('passed');
    const noted = await db.store.db
      .select()
      .from(history)
      .where(and(eq(history.subject, 'turn'), eq(history.action, 'attempt passed')));
    expect(noted.length).toBeGreaterThanOrEqual(5);
    expect(noted.every(({ personId, at }) => personId !== null && at instanceof Date)).toBe(true);
  });

  it('lets two testers begin the same turn only one after the other', async () => {
    const open = await db.store.db.select().from(turns).where(eq(turns.state, 'ready')).limit(1);
    const turn = open[0];
    if (!turn?.assigneeId) throw new Error('The demo has no ready turn.');
    const actor = await getActor(db.store, turn.assigneeId, 'brindlemere');
    const tries = await Promise.allSettled(
      [lead, actor].map((who) => db.perform(who, startAttempt, { turnId: turn.id, id: newAttempt(), browser: '' })),
    );
    expect(tries.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
  });
});
