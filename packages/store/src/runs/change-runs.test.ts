import { randomUUID } from 'node:crypto';
import { checkRuns } from './check-runs.ts';
import type { AttemptId, DefectId, PersonId, RunId, TurnId } from '@kindred-baton/core/ids';
import type { DefectStatus } from '@kindred-baton/core/defects/defect';
import { listDefectMoves } from '@kindred-baton/core/defects/defect';
import { settleRuns } from '@kindred-baton/core/turns/decide/settle-runs';
import { createRandom } from '@kindred-baton/core/values/fresh';
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import { expectSameTotals } from '../../../../tests/support/same-totals.ts';
import type { Actor } from '../actor.ts';
import { getActor } from '../actor.ts';
import { changeScope } from '../cycles/change-scope.ts';
import { logDefect, moveDefect } from '../defects/change-defects.ts';
import { joinDefect } from '../defects/talk-about-defects.ts';
import { leaveProgramme } from '../programmes/change-people.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { people } from '../schema/people.ts';
import { members } from '../schema/programmes.ts';
import { attempts, turns } from '../schema/turns.ts';
import { finishAttempt, recordStep, startAttempt } from '../turns/make-attempts.ts';
import { passTurn } from '../turns/pass-turn.ts';
import { loadState } from './load-state.ts';

/** What people do to runs, at random: most is refused by some rule, which is as good. */
describe('the door to runs', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const pick = <Item>(items: readonly Item[], random: () => number): Item | undefined => items[Math.floor(random() * items.length)];

  async function loadField(limit: number) {
    const own = await db.store.db
      .select({ id: runs.id })
      .from(runs)
      .innerJoin(cycles, and(eq(cycles.id, runs.cycleId), eq(cycles.code, 'ACC-2')))
      .orderBy(asc(runs.number))
      .limit(limit);
    return own.map(({ id }): RunId => id);
  }

  const listTurns = (ids: readonly RunId[]) =>
    db.store.db
      .select()
      .from(turns)
      .where(inArray(turns.runId, [...ids]))
      .orderBy(asc(turns.runId), asc(turns.index));
  const listOpen = async (ids: readonly RunId[]) =>
    db.store.db
      .select({ id: attempts.id, personId: attempts.personId, turnId: attempts.turnId })
      .from(attempts)
      .innerJoin(turns, eq(turns.id, attempts.turnId))
      .where(and(inArray(turns.runId, [...ids]), isNull(attempts.finishedAt)));
  const actorOf = (id: PersonId) => getActor(db.store, id, 'brindlemere');

  type Act = (ids: readonly RunId[], random: () => number) => Promise<(() => Promise<unknown>) | undefined>;

  const begin: Act = async (ids, random) => {
    const all = await listTurns(ids);
    const turn = pick(random() < 0.8 ? all.filter(({ state, status }) => state === 'ready' || status === 'failed') : all, random);
    return turn && (() => db.perform(lead, startAttempt, { turnId: turn.id, id: randomUUID() as AttemptId, browser: '' }));
  };
  const finish: Act = async (ids, random) => {
    const open = pick(await listOpen(ids), random);
    if (!open) return undefined;
    const actor = await actorOf(open.personId);
    const outcome = pick(['passed', 'failed', 'blocked', 'skipped', 'skipped'] as const, random) ?? 'skipped';
    return async () => {
      for (let stepIndex = 0; stepIndex < 40; stepIndex += 1) {
        const word = {
          wordId: randomUUID(),
          outcome: stepIndex === 0 ? outcome : ('skipped' as const),
          note: 'Seen.',
          kept: '',
          at: new Date().toISOString(),
        };
        const isThere = await db.perform(actor, recordStep, { attemptId: open.id, stepIndex, word }).then(
          () => true,
          (error: Error) => !/there is no step/.test(error.message) && stepIndex === 0,
        );
        if (!isThere) break;
      }
      await db.perform(actor, finishAttempt, open.id);
    };
  };
  const pass: Act = async (ids, random) => {
    const turn = pick(await listTurns(ids), random);
    const person = pick(await db.store.db.select().from(members), random);
    return turn && person && (() => db.perform(lead, passTurn, { turnId: turn.id, personId: person.personId, word: '' }));
  };
  const log: Act = async (ids, random) => {
    const open = pick(await listOpen(ids), random);
    if (!open) return undefined;
    const actor = await actorOf(open.personId);
    const known = pick(await db.store.db.select().from(defects), random);
    if (known && random() < 0.4) return () => db.perform(actor, joinDefect, { code: known.code, attemptId: open.id, stepIndex: 0 });
    const words = {
      title: 'It is wrong',
      kind: 'function',
      severity: 'slows the business',
      priority: 'high',
      expected: '',
      seen: 'Not so',
    } as const;
    return () => db.perform(actor, logDefect, { id: randomUUID() as DefectId, attemptId: open.id, stepIndex: 0, ...words });
  };
  const move: Act = async (_, random) => {
    const all = await db.store.db.select().from(defects);
    const defect = pick(
      all.filter(({ status }) => status !== 'closed'),
      random,
    );
    const to = defect && pick<DefectStatus>(random() < 0.6 ? ['fixed'] : listDefectMoves(defect.status), random);
    return (
      defect && to && (() => db.perform(lead, moveDefect, { code: defect.code, move: { from: defect.status, to, reason: 'So it is.' } }))
    );
  };
  const drop: Act = async (ids, random) => {
    const id = pick(ids, random);
    return () => db.perform(lead, changeScope, { code: 'ACC-2', change: { add: [], drop: id ? [id] : [], why: 'Not in time.' } } as never);
  };
  const leave: Act = async (ids, random) => {
    const open = pick(await listOpen(ids), random);
    if (!open || open.personId === lead.personId) return undefined;
    return () => db.perform(lead, leaveProgramme, { personId: open.personId, handTo: lead.personId });
  };
  const ACTS: readonly Act[] = [begin, begin, begin, begin, finish, finish, finish, finish, pass, log, log, move, move, drop, leave];

  async function expectSettled(ids: readonly RunId[]): Promise<void> {
    expect(await checkRuns(db.store.db)).toEqual([]);
    const links = await db.store.db
      .selectDistinct({ id: turns.runId })
      .from(turns)
      .innerJoin(defectTurns, eq(defectTurns.turnId, turns.id));
    const state = await loadState({ db: db.store.db }, { runs: [...new Set([...ids, ...links.map(({ id }) => id)])], defects: [] });
    // Reading times are rounded by the driver to milliseconds, as core has them.
    expect(settleRuns(state, Date.now())).toEqual(state);
  }

  it('leaves the demo as recomputing from its attempts gives it', async () => expectSettled(await loadField(500)));

  it.each([11, 12, 13])(
    'any acts, two at a time, end where recomputing from the attempts does, and every total with them (seed %i)',
    async (seed) => {
      const random = createRandom(seed);
      const ids = (await loadField(500)).filter(() => random() < 0.2);
      const done = { well: 0, refused: 0 };
      for (let round = 0; round < 30; round += 1) {
        const acts = [await pick(ACTS, random)?.(ids, random), await pick(ACTS, random)?.(ids, random)];
        const answers = await Promise.allSettled(acts.map((act) => act?.()));
        for (const answer of answers) {
          if (answer.status === 'fulfilled') done.well += 1;
          else {
            // Every refusal has a sentence of ours; a driver's error or a deadlock would be a fault.
            expect(String(answer.reason)).toMatch(/^AppError/);
            expect(String(answer.reason)).not.toMatch(/at the same moment|points to is gone/);
            done.refused += 1;
          }
        }
        if (round % 5 === 4) await expectSettled(ids);
      }
      await expectSettled(ids);
      await expectSameTotals(db, lead, 'ACC-2');
      expect(done.well).toBeGreaterThan(20);
    },
  );

  it('gives a retest when two defects of one turn are fixed at the same time', async () => {
    const ids = await loadField(500);
    const [turn] = (await listTurns(ids)).filter(({ state, outcome }) => state === 'ready' && outcome === 'not run');
    const [ilse] = await db.store.db
      .select()
      .from(people)
      .where(eq(people.id, turn?.assigneeId as PersonId));
    expect(ilse).toBeDefined();
    const id = randomUUID() as AttemptId;
    await db.perform(lead, startAttempt, { turnId: turn?.id as TurnId, id, browser: '' });
    const word = { wordId: randomUUID(), outcome: 'failed' as const, note: 'No.', at: new Date().toISOString() };
    await db.perform(lead, recordStep, { attemptId: id, stepIndex: 0, word });
    const words = {
      title: 'It is wrong',
      kind: 'function',
      severity: 'slows the business',
      priority: 'high',
      expected: '',
      seen: 'Not so',
    } as const;
    const codes = [];
    for (const _ of [1, 2])
      codes.push((await db.perform(lead, logDefect, { id: randomUUID() as DefectId, attemptId: id, stepIndex: 0, ...words })).code);
    for (let stepIndex = 1; stepIndex < 40; stepIndex += 1)
      await db
        .perform(lead, recordStep, { attemptId: id, stepIndex, word: { ...word, wordId: randomUUID(), outcome: 'skipped' } })
        .catch(() => undefined);
    await db.perform(lead, finishAttempt, id);
    await Promise.all(codes.map((code) => db.perform(lead, moveDefect, { code, move: { from: 'new', to: 'fixed', reason: '' } })));
    const [after] = await db.store.db
      .select()
      .from(turns)
      .where(eq(turns.id, turn?.id as TurnId));
    expect(after).toMatchObject({ isRetestDue: true, state: 'ready' });
    await expectSettled(ids);
  });
});
