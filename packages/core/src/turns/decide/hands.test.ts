import { describe, expect, it } from 'vitest';
import { decide } from './decide.ts';
import type { RunEvent } from './event.ts';
import { AT, createFinished, createOpen, createRun, createSheet, createState, createTurn, LEAD, UNA } from './run-facts.test-data.ts';
import type { Doer, RunsState, TurnFacts } from './runs-state.ts';
import { findTurn } from './runs-state.ts';
import { settleRuns } from './settle-runs.ts';

const POOL: Doer = { personId: 'office' as never, name: 'Office', roles: ['tester'], teams: [], runnerId: 'm1' as never };
const IVO: Doer = { ...UNA, personId: 'ivo' as never, name: 'Ivo', teams: [] };
const HELD = createOpen({ personId: POOL.personId, isWithRunners: true, runnerId: POOL.runnerId, kept: { 'Quote no.': 'QT-1' } });

const start = (turn: Partial<TurnFacts>): RunsState => settleRuns(createState([createRun([createTurn(0, turn), createTurn(1)])]), AT);
const after = (state: RunsState, event: RunEvent, by: Doer) => {
  const decision = decide(state, event, { by, atMs: AT });
  return decision.ok ? { turn: findTurn(decision.state, 't0' as never)!.turn, effects: decision.effects } : decision.refusal.message;
};

describe('an attempt that changes hands', () => {
  const handOver = (to: Doer, isPool = false): RunEvent => ({
    ...{ kind: 'hand over', attempt: 'a2' as never, word: '' },
    to: { personId: to.personId, teams: to.teams, isPool },
  });
  const withRunner = start({ assigneeId: POOL.personId, open: HELD });
  const withUna = start({ open: createOpen({ kept: { 'Quote no.': 'QT-1' } }) });

  it('goes from a runner to whoever of the lane takes it, with all that was kept, and to anybody by the lead', () => {
    expect(after(withRunner, handOver(UNA), UNA)).toMatchObject({
      turn: {
        assigneeId: 'una',
        status: 'under way',
        open: { personId: 'una', isWithRunners: false, runnerId: null, kept: { 'Quote no.': 'QT-1' } },
      },
    });
    expect(after(withRunner, handOver(IVO), LEAD)).toMatchObject({ turn: { assigneeId: 'ivo' } });
    expect(after(withRunner, handOver(IVO), IVO)).toContain('of your own lane');
    expect(after(withRunner, handOver(IVO), UNA)).toContain('of your own lane');
  });

  it('goes from a person to runners by herself alone, and not from one person to another', () => {
    expect(after(withUna, handOver(POOL, true), UNA)).toMatchObject({ turn: { assigneeId: 'office', open: { isWithRunners: true } } });
    expect(after(withUna, handOver(POOL, true), LEAD)).toContain('somebody else’s');
    expect(after(withUna, handOver(IVO), LEAD)).toContain('somebody else’s');
    expect(after(start({}), handOver(UNA), UNA)).toContain('not under way any more');
  });
});

describe('a runner that ends in the middle', () => {
  const breakOff = (isAgain: boolean): RunEvent => ({ kind: 'break off', attempt: 'a2' as never, isAgain, why: 'Nothing was heard.' });
  const state = start({ assigneeId: POOL.personId, open: HELD });

  it('leaves its turn to the next; the second time in a row it is blocked, and the lead is told', () => {
    expect(after(state, breakOff(false), POOL)).toMatchObject({
      turn: { state: 'ready', latest: { outcome: 'blocked', isAbandoned: true } },
    });
    const again = after(state, breakOff(true), POOL);
    expect(again).toMatchObject({ turn: { state: 'done', status: 'blocked', latest: { isAbandoned: false } } });
    expect(again).toMatchObject({ effects: expect.arrayContaining([expect.objectContaining({ kind: 'tell blocked' })]) as never });
  });

  it('is said twice and happens once', () => {
    const once = decide(state, breakOff(false), { by: POOL, atMs: AT });
    if (!once.ok) throw new Error(once.refusal.message);
    const twice = decide(once.state, breakOff(false), { by: POOL, atMs: AT });
    expect(twice).toMatchObject({ ok: true, state: once.state, effects: [] });
  });
});

describe('going on from where another stopped', () => {
  const begin = (continues: string | null): RunEvent => ({
    ...{ kind: 'begin', turn: 't0' as never, attempt: 'a9' as never, environment: 'Rehearsal', browser: '', isFromSheet: false },
    continues: continues as never,
  });
  const blocked = createFinished('blocked', { id: 'a1' as never, kept: { 'Quote no.': 'QT-1' }, seedId: 'a0' as never });

  it('takes what was kept and the fresh values along', () => {
    expect(after(start({ latest: blocked }), begin('a1'), UNA)).toMatchObject({
      turn: { open: { id: 'a9', continuesId: 'a1', seedId: 'a0', kept: { 'Quote no.': 'QT-1' } } },
    });
    expect(after(start({ latest: blocked }), begin(null), UNA)).toMatchObject({
      turn: { open: { continuesId: null, seedId: 'a9', kept: {} } },
    });
  });

  it('is refused where that attempt is not the newest, did not stop, or had other steps', () => {
    const refused = 'cannot be gone on with';
    expect(after(start({ latest: blocked }), begin('a7'), UNA)).toContain(refused);
    expect(after(start({ latest: { ...blocked, outcome: 'failed' } }), begin('a1'), UNA)).toContain(refused);
    expect(after(start({ latest: { ...blocked, versionId: 'v0' as never } }), begin('a1'), UNA)).toContain(refused);
  });

  it('binds nobody to the rule of retests by an attempt that was broken off', () => {
    const rules = { ...createRun([]).cycle.rules, retestBy: 'another person' as const };
    const run = (isAbandoned: boolean) => {
      const own = createTurn(0, { assigneeId: POOL.personId, latest: { ...blocked, personId: POOL.personId, isAbandoned } });
      return settleRuns(createState([createRun([own], { cycle: { ...createRun([]).cycle, rules } })]), AT);
    };
    expect(after(run(true), begin(null), POOL)).toMatchObject({ turn: { status: 'blocked', state: 'under way' } });
    expect(after(run(false), begin(null), POOL)).toContain('by another person');
  });
});

it('a failure that a runner saw needs no defect to be finished; a person looks at it', () => {
  const cycle = { ...createRun([]).cycle, rules: { ...createRun([]).cycle.rules, failure: ['defect' as const] } };
  const state = (by: Doer) =>
    createState([createRun([createTurn(0, { assigneeId: by.personId, open: { ...HELD, personId: by.personId } })], { cycle })], {
      sheets: [createSheet(['failed'])],
    });
  const finish: RunEvent = { kind: 'finish', attempt: 'a2' as never };
  expect(after(state(POOL), finish, POOL)).toMatchObject({ turn: { status: 'failed' } });
  expect(after(state(UNA), finish, UNA)).toContain('a defect with every failure');
});
