import { randomUUID } from 'node:crypto';
import { and, eq } from 'drizzle-orm';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { toSheetMark, toSheetText } from '@kindred-baton/core/turns/turn-sheet';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getPlan } from '../cycles/get-plan.ts';
import { moveCycle } from '../cycles/move-cycle.ts';
import { logDefect } from '../defects/change-defects.ts';
import { getDefect } from '../defects/get-defects.ts';
import { changeDefect, getLikelySame, joinDefect, sayDefect } from '../defects/talk-about-defects.ts';
import { dropEvidence, keepEvidence } from '../evidence/keep-evidence.ts';
import { cycles } from '../schema/cycles.ts';
import { defectTurns } from '../schema/defects.ts';
import { history } from '../schema/history.ts';
import { attempts, evidence, stepResults } from '../schema/turns.ts';
import { getGuide } from './get-guide.ts';
import { getTurnsHome, markSeen } from './get-turns-home.ts';
import { keepSheet } from './keep-sheet.ts';
import { finishAttempt, recordStep, startAttempt } from './make-attempts.ts';

describe('bad days', () => {
  let db: TestStore;
  let lead: Actor;
  let used = new Set<string>();
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  /** A turn that is ready, and who has it. */
  const takeReady = async () => {
    const plan = await db.ask(lead, getPlan, 'ACC-2');
    const turn = plan.turns.find(({ id, status, person }) => status === 'ready' && person !== null && !used.has(id));
    if (!turn) throw new Error('The demo has no ready turn left.');
    used.add(turn.id);
    const actor = await db.actorOf(plan.people.find(({ id }) => id === turn.person)?.name ?? '');
    return { turn, actor };
  };
  const begin = async () => {
    const { turn, actor } = await takeReady();
    const attempt = randomUUID() as never;
    await db.perform(actor, startAttempt, { turnId: turn.id, id: attempt, browser: '' });
    const { version } = await db.ask(actor, getGuide, turn.id);
    return { turn, actor, attempt, steps: version?.steps ?? [], gives: version?.gives ?? [] };
  };
  const word = (outcome: 'passed' | 'failed' | 'skipped', more: object = {}) => ({
    wordId: randomUUID(),
    outcome,
    note: '',
    at: new Date().toISOString(),
    ...more,
  });

  beforeEach(() => {
    used = new Set(used);
  });

  it('the same outcome sent five times at once is stored once', async () => {
    const { actor, attempt } = await begin();
    const same = word('failed', { note: 'It says 310.00' });
    await Promise.all(Array.from({ length: 5 }, () => db.perform(actor, recordStep, { attemptId: attempt, stepIndex: 0, word: same })));
    expect(await db.store.db.select().from(stepResults).where(eq(stepResults.attemptId, attempt))).toHaveLength(1);
  });

  it('a clock off by a day is noted as it was said; when it came is the server’s to say', async () => {
    const { actor, attempt } = await begin();
    const tomorrow = new Date(Date.now() + 86_400_000).toISOString();
    await db.perform(actor, recordStep, { attemptId: attempt, stepIndex: 0, word: word('skipped', { at: tomorrow }) });
    const [said] = await db.store.db.select().from(stepResults).where(eq(stepResults.attemptId, attempt));
    expect(said?.recordedAt.toISOString()).toBe(tomorrow);
    const [came] = await db.store.db
      .select()
      .from(history)
      .where(and(eq(history.subjectId, attempt), eq(history.action, 'step recorded')));
    expect(Math.abs((came?.at.getTime() ?? 0) - Date.now())).toBeLessThan(60_000);
  });

  it('two who begin one turn: the second is told who has it', async () => {
    const { turn, actor } = await takeReady();
    const results = await Promise.allSettled([
      db.perform(actor, startAttempt, { turnId: turn.id, id: randomUUID() as never, browser: '' }),
      db.perform(lead, startAttempt, { turnId: turn.id, id: randomUUID() as never, browser: '' }),
    ]);
    expect(results.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    const refused = results.find((result) => result.status === 'rejected');
    expect(String(refused?.reason)).toMatch(/has an attempt at this turn under way/);
  });

  it('finishing twice finishes once, and says the same', async () => {
    const { actor, attempt, steps } = await begin();
    for (const [index] of steps.entries())
      await db.perform(actor, recordStep, { attemptId: attempt, stepIndex: index, word: word('skipped') });
    const [a, b] = await Promise.all([db.perform(actor, finishAttempt, attempt), db.perform(actor, finishAttempt, attempt)]);
    expect([a.outcome, b.outcome]).toEqual(['skipped', 'skipped']);
    await expect(db.perform(actor, recordStep, { attemptId: attempt, stepIndex: 0, word: word('passed') })).rejects.toThrow(
      'This attempt is finished',
    );
  });

  it('a cycle is not closed over an attempt under way; closed all the same, the attempt is kept and says so', async () => {
    const { actor, attempt, steps } = await begin();
    await db.perform(lead, moveCycle, { code: 'ACC-2', from: 'open', to: 'closing' });
    await expect(db.perform(lead, moveCycle, { code: 'ACC-2', from: 'closing', to: 'closed', left: [] })).rejects.toThrow(
      /under way in ACC-2/,
    );
    const here = eq(cycles.code, 'ACC-2');
    await db.store.db.update(cycles).set({ state: 'closed', closedAt: new Date() }).where(here);
    for (const [index] of steps.entries())
      await db.perform(actor, recordStep, { attemptId: attempt, stepIndex: index, word: word('skipped') });
    await expect(db.perform(actor, finishAttempt, attempt)).rejects.toThrow('was closed meanwhile. What you recorded is kept');
    expect((await db.store.db.select().from(stepResults).where(eq(stepResults.attemptId, attempt))).length).toBe(steps.length);
    await db.store.db.update(cycles).set({ state: 'open', closedAt: null }).where(here);
  });

  it('a picture that was drawn over can be taken back while the attempt is under way, and never after', async () => {
    const { actor, attempt, steps } = await begin();
    const file = { attemptId: attempt, stepIndex: 0, name: 'a.png', mediaType: 'image/png', content: Buffer.from('x') };
    const [first, second] = [randomUUID() as never, randomUUID() as never];
    await db.perform(actor, keepEvidence, { id: first, ...file });
    await db.perform(actor, keepEvidence, { id: second, ...file });
    await expect(db.perform(lead, dropEvidence, first)).rejects.toThrow('somebody else’s');
    await db.perform(actor, dropEvidence, first);
    expect(
      (await db.store.db.select({ id: evidence.id }).from(evidence).where(eq(evidence.attemptId, attempt))).map(({ id }) => id),
    ).toEqual([second]);
    for (const [index] of steps.entries())
      await db.perform(actor, recordStep, { attemptId: attempt, stepIndex: index, word: word('skipped') });
    await db.perform(actor, finishAttempt, attempt);
    await expect(db.perform(actor, dropEvidence, second)).rejects.toThrow('what belongs to it is kept');
  });

  it('a sheet that comes back is an attempt with the same checks, or nothing of it is kept', async () => {
    const { turn, actor } = await takeReady();
    const { version } = await db.ask(actor, getGuide, turn.id);
    const steps = version?.steps ?? [];
    const mark = toSheetMark(turn.id, steps);
    const lines = steps.map((step, index) => ({
      number: index + 1,
      step: toSheetText(step),
      outcome: index === 0 ? 'did not' : 'left out',
      note: index === 0 ? 'No list came' : '',
      kept: '',
    }));
    await expect(
      db.perform(actor, keepSheet, { turnId: turn.id, mark, lines: lines.map((line) => ({ ...line, outcome: 'perhaps' })) }),
    ).rejects.toThrow(/is no outcome.*Nothing was kept/);
    await expect(db.perform(actor, keepSheet, { turnId: turn.id, mark: toSheetMark(turn.id, steps.slice(1)), lines })).rejects.toThrow(
      'steps of this turn were changed',
    );
    await expect(db.perform(actor, keepSheet, { turnId: turn.id, mark, lines: lines.slice(1) })).rejects.toThrow(
      'Say first how step 1 went',
    );
    expect(await db.store.db.select().from(attempts).where(eq(attempts.turnId, turn.id))).toEqual([]);
    expect(await db.perform(actor, keepSheet, { turnId: turn.id, mark, lines })).toMatchObject({ outcome: 'failed' });
    const { attempts: made } = await db.ask(actor, getGuide, turn.id);
    expect(made[0]).toMatchObject({
      isFromSheet: true,
      browser: 'on paper',
      results: expect.arrayContaining([expect.objectContaining({ stepIndex: 0, outcome: 'failed', note: 'No list came' })]),
    });
  });

  it('a defect is joined instead of doubled; talk is kept once, links must lead somewhere', async () => {
    const first = await begin();
    const id = randomUUID() as never;
    const seen = 'The list of permits stays empty';
    await db.perform(first.actor, recordStep, { attemptId: first.attempt, stepIndex: 0, word: word('failed', { note: seen }) });
    const input = {
      id,
      attemptId: first.attempt,
      stepIndex: 0,
      title: 'Permits are not listed',
      kind: 'function' as const,
      severity: 'slows the business' as const,
      priority: 'high' as const,
      expected: 'The list',
      seen,
    };
    const { code } = await db.perform(first.actor, logDefect, input);
    expect(await db.perform(first.actor, logDefect, input)).toEqual({ code });
    const second = await begin();
    const { likely } = await db.ask(second.actor, getLikelySame, {
      attemptId: second.attempt,
      stepIndex: 0,
      title: 'Permits not listed',
      seen,
    });
    expect(likely[0]).toMatchObject({ code, why: expect.arrayContaining(['words']) });
    await db.perform(second.actor, joinDefect, { code, attemptId: second.attempt, stepIndex: 0 });
    expect(await db.store.db.select().from(defectTurns).where(eq(defectTurns.defectId, id))).toHaveLength(2);
    const said = { code, id: randomUUID(), text: 'I see it too.' };
    await db.perform(second.actor, sayDefect, said);
    await db.perform(second.actor, sayDefect, said);
    await expect(db.perform(lead, changeDefect, { code, change: { links: [{ kind: 'same as', to: 'TQ-999' }] } })).rejects.toThrow(
      'There is no defect TQ-999',
    );
    await db.perform(lead, changeDefect, {
      code,
      change: { assigneeId: lead.personId, dueOn: '2027-01-04', links: [{ kind: 'see also', to: 'TQ-203' }] },
    });
    const defect = await db.ask(lead, getDefect, code);
    expect(defect).toMatchObject({ assignee: 'Lea Marsh', dueOn: '2027-01-04', links: [{ kind: 'see also', to: 'TQ-203' }] });
    expect(defect.talk.map(({ text }) => text)).toEqual(['I see it too.']);
    expect(defect.run?.number).toBeGreaterThan(0);
  });

  it('home says what happened since she was last here, and her numbers', async () => {
    const { actor } = await takeReady();
    expect((await db.ask(actor, getTurnsHome, undefined)).since).toBeNull();
    await db.perform(actor, markSeen, undefined);
    const home = await db.ask(actor, getTurnsHome, undefined);
    expect(home.since).toMatchObject({ came: 0, retests: 0, nudges: 0 });
    expect(home.mine.turns).toBeGreaterThan(home.mine.done);
  });
});
