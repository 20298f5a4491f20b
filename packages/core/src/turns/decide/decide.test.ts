import { describe, expect, it } from 'vitest';
import { decide } from './decide.ts';
import type { RunEvent } from './event.ts';
import type { Doer, RunsState } from './runs-state.ts';
import { findTurn } from './runs-state.ts';
import { settleRuns } from './settle-runs.ts';
import {
  AT,
  createCycleFacts,
  createDefect,
  createFinished,
  createOpen,
  createRun,
  createSheet,
  createState,
  createTurn,
  LEAD,
  UNA,
} from './run-facts.test-data.ts';

/** The state after it, settled before. */
function after(state: RunsState, event: RunEvent, by: Doer = UNA, atMs = AT) {
  const decision = decide(settleRuns(state, AT - 1), event, { by, atMs });
  if (!decision.ok) throw new Error(decision.refusal.message);
  return decision;
}
const refusalOf = (state: RunsState, event: RunEvent, by: Doer = UNA) => {
  const decision = decide(settleRuns(state, AT - 1), event, { by, atMs: AT });
  return decision.ok ? null : `${decision.refusal.code}: ${decision.refusal.message}`;
};
const begin: RunEvent = {
  kind: 'begin',
  turn: 't0' as never,
  attempt: 'a9' as never,
  environment: 'Rehearsal',
  browser: 'B',
  isFromSheet: false,
  continues: null,
};
const turnOf = (state: RunsState, id: string) => findTurn(state, id as never)?.turn;
const statuses = (state: RunsState) => state.runs.flatMap(({ turns }) => turns.map(({ state: at, status }) => `${at}/${status}`));

describe('beginning an attempt', () => {
  it('opens the next number in the actor’s name, notes it, and the run is under way', () => {
    const before = createState([createRun([createTurn(0, { latest: createFinished('blocked', { number: 3 }) })])]);
    const { state, effects } = after(before, begin);
    expect(turnOf(state, 't0')?.open).toMatchObject({
      number: 4,
      personId: 'una',
      personName: 'Una North',
      environment: 'Rehearsal',
      startedAtMs: AT,
    });
    expect(effects).toEqual([
      { kind: 'history', subject: 'turn', subjectId: 't0', action: 'attempt begun', details: { attempt: 'a9', number: 4 } },
    ]);
    expect(after(createState([createRun([createTurn(0)])]), begin).state.runs[0]?.outcome).toBe('under way');
  });

  it('sent twice begins once; while somebody is at it, says who', () => {
    const mine = createState([createRun([createTurn(0, { open: createOpen({ id: 'a9' as never }) })])]);
    expect(after(mine, begin).state.runs).toEqual(settleRuns(mine, AT).runs);
    const finished = createState([createRun([createTurn(0, { latest: createFinished('passed', { id: 'a9' as never }) })])]);
    expect(after(finished, begin).effects).toEqual([]);
    expect(refusalOf(createState([createRun([createTurn(0, { open: createOpen() })])]), begin, LEAD)).toBe(
      'conflict: Una North has an attempt at this turn under way.',
    );
    expect(refusalOf(createState([]), begin)).toBe('not found: There is no such turn in this programme.');
  });

  it.each([
    ['an observer', { ...UNA, roles: ['observer' as const] }, {}, {}, 'Your role (observer) only looks on.'],
    ['somebody else', { ...UNA, personId: 'ivo' as never }, {}, {}, 'This turn is with somebody else.'],
    ['a bare leg', UNA, { hasSteps: false }, {}, 'This leg has no test yet.'],
    ['a planned cycle', UNA, {}, { state: 'planning' as const }, 'Cycle ACC-1 is planning; attempts are made while it is open.'],
    ['a closed cycle', UNA, {}, { state: 'closed' as const }, 'Cycle ACC-1 is closed; attempts are made while it is open.'],
    ['a closing cycle', UNA, {}, { state: 'closing' as const }, 'Cycle ACC-1 is closing: only retests are made.'],
    ['a turn that passed', UNA, { latest: createFinished('passed') }, {}, 'This turn has passed.'],
  ])('is refused to %s', (_, by, turn, cycle, message) => {
    const run = createRun([createTurn(0, turn)], { cycle: createCycleFacts(cycle) });
    expect(refusalOf(createState([run]), begin, by)).toBe(`conflict: ${message}`);
  });

  it('is allowed to the lead, and to the lane where the cycle says so', () => {
    const others = createTurn(0, { assigneeId: 'ivo' as never });
    const rules = { ...createCycleFacts().rules, laneMayRecord: true };
    expect(refusalOf(createState([createRun([others])]), begin, LEAD)).toBeNull();
    expect(refusalOf(createState([createRun([others], { cycle: createCycleFacts({ rules }) })]), begin)).toBeNull();
    expect(refusalOf(createState([createRun([{ ...others, teamId: null }], { cycle: createCycleFacts({ rules }) })]), begin)).toContain(
      'somebody else',
    );
  });

  it('waits for the turn before it, and says when it is held', () => {
    const second = { ...begin, turn: 't1' as never };
    expect(refusalOf(createState([createRun([createTurn(0), createTurn(1)])]), second)).toContain('still waits for the one before it');
    const failed = createTurn(0, { latest: createFinished('failed') });
    expect(refusalOf(createState([createRun([failed, createTurn(1)])]), second)).toContain('This turn is held.');
  });

  it.each([
    ['the same person', 'una', null],
    ['the same person', 'ivo', 'by whoever made the attempt before'],
    ['another person', 'una', 'another person than the attempt before'],
    ['another person', 'ivo', null],
    ['anybody of the lane', 'ivo', null],
  ] as const)('as a retest by %s, when %s comes: %s', (retestBy, who, message) => {
    const rules = { ...createCycleFacts().rules, retestBy };
    const turn = createTurn(0, { assigneeId: who as never, latest: createFinished('failed') });
    const state = createState([createRun([turn], { cycle: createCycleFacts({ rules, state: 'closing' }) })]);
    const refusal = refusalOf(state, begin, { ...UNA, personId: who as never });
    if (message === null) expect(refusal).toBeNull();
    else expect(refusal).toContain(message);
  });

  it('at a failed turn waits until what holds it is fixed', () => {
    const run = createRun([createTurn(0, { latest: createFinished('failed') })]);
    expect(refusalOf(createState([run], { defects: [createDefect(['t0'])] }), begin)).toBe(
      'conflict: D-1 must be fixed first; then this turn comes back to you.',
    );
    expect(refusalOf(createState([run], { defects: [createDefect(['t0'], { status: 'declined' })] }), begin)).toBeNull();
  });
});

describe('finishing an attempt', () => {
  const finish: RunEvent = { kind: 'finish', attempt: 'a2' as never };
  const open = (more = {}) => createRun([createTurn(0, { open: createOpen({ kept: { 'Quote no.': 'Q-1' } }) }), createTurn(1)], more);

  it('takes the outcome from the steps, hands the baton on and tells who has it now', () => {
    const { state, effects } = after(createState([open()], { sheets: [createSheet(['passed', 'skipped'])] }), finish);
    expect(turnOf(state, 't0')).toMatchObject({
      open: null,
      state: 'done',
      status: 'passed',
      doneAtMs: AT,
      latest: { outcome: 'passed', finishedAtMs: AT, isAbandoned: false },
    });
    expect(turnOf(state, 't1')).toMatchObject({ state: 'ready', readyAtMs: AT });
    expect(effects).toEqual([
      {
        kind: 'history',
        subject: 'turn',
        subjectId: 't0',
        action: 'attempt passed',
        details: { attempt: 'a2', kept: { 'Quote no.': 'Q-1' } },
      },
      { kind: 'tell ready', turns: ['t1'] },
    ]);
  });

  it('asks for every required step, by its number', () => {
    const of = (sheet: ReturnType<typeof createSheet>) => refusalOf(createState([open()], { sheets: [sheet] }), finish);
    expect(of(createSheet(['passed', null]))).toBe('invalid: Say first how step 2 went.');
    expect(of(createSheet([null, 'passed', null]))).toBe('invalid: Say first how steps 1, 3 went.');
    const optional = createSheet([null], { steps: [{ do: 'press', target: 'Maybe', optional: true }] });
    expect(of(optional)).toBe('invalid: Say first how steps 1 went.');
    expect(refusalOf(createState([open()]), finish)).toContain('Say first how');
  });

  it('asks for what the cycle’s rules ask for', () => {
    const rules = { ...createCycleFacts().rules, evidence: 'failed steps' as const, failure: ['words' as const, 'defect' as const] };
    const run = open({ cycle: createCycleFacts({ rules }) });
    const bare = createSheet(['failed', 'passed']);
    expect(refusalOf(createState([run], { sheets: [bare] }), finish)).toBe(
      'invalid: This cycle asks for a picture or file at step 1. This cycle asks for words on what you saw at step 1. This cycle asks for a defect with every failure: log it, or join it to one that is known.',
    );
    const told = {
      ...bare,
      pictures: new Map([[0, 1]]),
      results: [
        { stepIndex: 0, outcome: 'failed' as const, note: 'No' },
        { stepIndex: 1, outcome: 'passed' as const, note: '' },
      ],
    };
    const gone = createDefect(['t0'], { status: 'declined' });
    expect(refusalOf(createState([run], { sheets: [told], defects: [gone] }), finish)).toContain('asks for a defect');
    expect(refusalOf(createState([run], { sheets: [told], defects: [createDefect(['t0'])] }), finish)).toBeNull();
  });

  it('is only the maker’s, once, and not in a closed cycle', () => {
    const sheets = [createSheet(['passed'])];
    expect(refusalOf(createState([open()], { sheets }), finish, LEAD)).toBe('forbidden: This attempt is somebody else’s.');
    expect(refusalOf(createState([open({ cycle: createCycleFacts({ state: 'closed' }) })], { sheets }), finish)).toContain(
      'was closed meanwhile. What you recorded is kept',
    );
    const done = createState([createRun([createTurn(0, { latest: createFinished('passed', { id: 'a2' as never }) })])]);
    expect(after(done, finish).effects).toEqual([]);
    expect(refusalOf(done, finish, LEAD)).toContain('no such attempt');
  });

  it('holds what stands behind a failure', () => {
    const { state, effects } = after(createState([open()], { sheets: [createSheet(['failed'])] }), finish);
    expect(statuses(state)).toEqual(['done/failed', 'waiting/held']);
    expect(effects.filter(({ kind }) => kind !== 'history')).toEqual([]);
  });
});

describe('a retest', () => {
  const failed = (number = 1) => createTurn(0, { latest: createFinished('failed', { number }) });
  const fix = (defect: string): RunEvent => ({ kind: 'move defect', defect: defect as never, from: 'new', to: 'fixed', reason: '' });
  const two = () =>
    createState([createRun([failed()])], { defects: [createDefect(['t0']), createDefect(['t0'], { id: 'd2' as never, code: 'D-2' })] });

  it('is due once the last of its defects is fixed, in whichever order, and is told once', () => {
    for (const [first, second] of [
      ['d1', 'd2'],
      ['d2', 'd1'],
    ] as const) {
      const one = after(two(), fix(first), LEAD);
      expect(turnOf(one.state, 't0')).toMatchObject({ isRetestDue: false, state: 'done' });
      expect(one.effects.at(-1)).toEqual({ kind: 'tell fixed', defect: first, turns: [] });
      const both = after(one.state, fix(second), LEAD);
      expect(turnOf(both.state, 't0')).toMatchObject({ isRetestDue: true, state: 'ready', status: 'failed' });
      expect(both.effects.at(-1)).toEqual({ kind: 'tell fixed', defect: second, turns: ['t0'] });
    }
  });

  it('is due when one is fixed and the other declined, and not when both are declined', () => {
    const decline = (defect: string): RunEvent => ({
      kind: 'move defect',
      defect: defect as never,
      from: 'new',
      to: 'declined',
      reason: 'As designed',
    });
    expect(turnOf(after(after(two(), fix('d1'), LEAD).state, decline('d2'), LEAD).state, 't0')?.isRetestDue).toBe(true);
    expect(turnOf(after(after(two(), decline('d1'), LEAD).state, decline('d2'), LEAD).state, 't0')?.isRetestDue).toBe(false);
  });

  it('is told for those of a defect’s turns that become ready by it, and due after what each had finished by then', () => {
    const waiting = createTurn(1, { id: 't9' as never, index: 1, after: [], open: createOpen({ id: 'b1' as never }) });
    const shared = createState([createRun([failed(3), waiting])], { defects: [createDefect(['t9', 't0'])] });
    const { state, effects } = after(shared, fix('d1'), LEAD);
    expect(effects.at(-1)).toEqual({ kind: 'tell fixed', defect: 'd1', turns: ['t0'] });
    expect(state.defects[0]?.turns).toEqual([
      { turn: 't9', retestAfter: 0 },
      { turn: 't0', retestAfter: 3 },
    ]);
  });

  const retested = (outcome: 'passed' | 'failed' | 'blocked' | 'skipped') => {
    const due = after(createState([createRun([failed()])], { defects: [createDefect(['t0'])] }), fix('d1'), LEAD).state;
    const begun = after(due, { ...begin, attempt: 'a2' as never }).state;
    return after({ ...begun, sheets: [createSheet([outcome])] }, { kind: 'finish', attempt: 'a2' as never });
  };

  it('closes the defect when it passes, opens it again when it fails, and leaves it when it is blocked', () => {
    expect(retested('passed').state.defects[0]).toMatchObject({ status: 'closed' });
    expect(retested('skipped').state.defects[0]).toMatchObject({ status: 'closed' });
    expect(retested('failed').state.defects[0]).toMatchObject({ status: 'accepted', turns: [{ turn: 't0', retestAfter: null }] });
    expect(retested('blocked').state.defects[0]).toMatchObject({ status: 'fixed' });
    expect(retested('passed').effects).toContainEqual({
      kind: 'history',
      subject: 'defect',
      subjectId: 'd1',
      action: 'retested and closed',
      details: { from: 'fixed', to: 'closed' },
    });
    expect(retested('failed').effects).toContainEqual({
      kind: 'history',
      subject: 'defect',
      subjectId: 'd1',
      action: 'reopened by a retest',
      details: { from: 'fixed', to: 'accepted' },
    });
    expect(turnOf(retested('blocked').state, 't0')).toMatchObject({ isRetestDue: false, state: 'done', status: 'blocked' });
  });

  it('counts only what was tried after the fix: an older failure of another turn reopens nothing', () => {
    const other = createTurn(1, { id: 't9' as never, after: [], latest: createFinished('failed', { id: 'b1' as never }) });
    const holding = createDefect(['t9'], { id: 'd2' as never, code: 'D-2' });
    const state = createState([createRun([failed(), { ...other, index: 1 }])], { defects: [createDefect(['t0', 't9']), holding] });
    const due = after(state, fix('d1'), LEAD).state;
    const begun = after(due, { ...begin, attempt: 'a2' as never }).state;
    const done = after({ ...begun, sheets: [createSheet(['passed'])] }, { kind: 'finish', attempt: 'a2' as never }).state;
    expect(done.defects[0]).toMatchObject({ status: 'fixed' });
    expect(turnOf(done, 't9')).toMatchObject({ isRetestDue: false });
  });

  it('is not judged for a defect of which not every turn is known here', () => {
    const elsewhere = createDefect(['t0', 'far'], {
      status: 'fixed',
      turns: [
        { turn: 't0' as never, retestAfter: 0 },
        { turn: 'far' as never, retestAfter: 0 },
      ],
    });
    const state = createState([createRun([createTurn(0, { latest: createFinished('passed') })])], { defects: [elsewhere] });
    expect(settleRuns(state, AT).defects[0]?.status).toBe('fixed');
  });
});

describe('moving a defect', () => {
  const move = (from: never, to: never): RunEvent => ({ kind: 'move defect', defect: 'd1' as never, from, to, reason: '' });
  it('goes only where it may, from where it is', () => {
    const state = createState([], { defects: [createDefect([], { status: 'accepted' })] });
    expect(refusalOf(state, move('new' as never, 'fixed' as never), LEAD)).toBe('conflict: D-1 is accepted by now, not new.');
    expect(refusalOf(state, move('accepted' as never, 'new' as never), LEAD)).toBe('invalid: A defect that is accepted cannot become new.');
    expect(refusalOf(createState([]), move('new' as never, 'fixed' as never), LEAD)).toContain('no such defect');
  });

  it('closes a fixed one by hand when no retest is to come, and not before', () => {
    const fixed = (outcome: 'passed' | 'failed') =>
      createState([createRun([createTurn(0, { latest: createFinished(outcome) })])], {
        defects: [createDefect(['t0'], { status: 'fixed', turns: [{ turn: 't0' as never, retestAfter: 1 }] })],
      });
    expect(refusalOf(fixed('failed'), move('fixed' as never, 'closed' as never), LEAD)).toContain('Turn 0 is still to be tested again');
    expect(after(fixed('passed'), move('fixed' as never, 'closed' as never), LEAD).state.defects[0]?.status).toBe('closed');
  });

  it('is logged once, and joined while it holds', () => {
    const log: RunEvent = { kind: 'log defect', defect: 'd1' as never, code: 'D-1', title: 'Wrong', turn: 't0' as never };
    const join: RunEvent = { kind: 'join defect', defect: 'd1' as never, turn: 't1' as never, step: 2 };
    const logged = after(createState([createRun([createTurn(0), createTurn(1)])]), log).state;
    expect(logged.defects).toEqual([createDefect(['t0'], { title: 'Wrong' })]);
    expect(after(logged, log).state.defects).toEqual(logged.defects);
    const joined = after(logged, join).state;
    expect(joined.defects[0]?.turns.map(({ turn }) => turn)).toEqual(['t0', 't1']);
    expect(after(joined, join).state.defects[0]?.turns).toHaveLength(2);
    const over = createState([], { defects: [createDefect([], { status: 'closed' })] });
    expect(refusalOf(over, join)).toBe('conflict: D-1 is closed. Log a new defect, and link the two.');
    expect(refusalOf(createState([], { defects: [createDefect([], { status: 'fixed' })] }), join)).toContain('have it reopened');
  });
});

describe('passing a turn on', () => {
  const pass = (to: string, teams: string[] = ['lane']): RunEvent => ({
    kind: 'pass',
    turn: 't0' as never,
    to: { personId: to as never, teams: teams as never, isPool: false },
    word: 'Please',
  });
  const state = (turn = {}) =>
    createState([createRun([createTurn(0, turn), createTurn(1, { assigneeId: 'ivo' as never, otherPersonThan: [0] })])]);

  it('is for its holder to somebody of the lane, for somebody of the lane to herself, and for the lead to anybody', () => {
    const handed = after(state(), pass('ada'));
    expect(turnOf(handed.state, 't0')?.assigneeId).toBe('ada');
    expect(handed.effects.at(-1)).toEqual({ kind: 'tell passed on', turn: 't0', from: 'una', to: 'ada', word: 'Please' });
    expect(refusalOf(state(), pass('ada', []))).toBe(
      'forbidden: You can hand this turn to somebody of its lane, or to runners. Ask the lead for anybody else.',
    );
    expect(refusalOf(state({ assigneeId: 'ada' as never }), pass('una'))).toBeNull();
    expect(refusalOf(state({ assigneeId: 'ada' as never, teamId: null }), pass('una'))).toBe(
      'forbidden: You can take turns of your own lane. Ask the lead for this one.',
    );
    expect(refusalOf(state({ assigneeId: 'ada' as never }), pass('bob'))).toContain('your own lane');
    expect(refusalOf(state({ assigneeId: 'ada' as never }), pass('bob', []), LEAD)).toBeNull();
  });

  it('never brings two legs to one person that two people must do, whichever of them says so', () => {
    expect(refusalOf(state(), pass('ivo'), LEAD)).toBe(
      'invalid: Turn 0 must not be done by whoever does leg 2, Turn 1, which that person has. Choose somebody else.',
    );
    const asked = createState([createRun([createTurn(0, { otherPersonThan: [1] }), createTurn(1, { assigneeId: 'ivo' as never })])]);
    expect(refusalOf(asked, pass('ivo'), LEAD)).toContain('Choose somebody else');
  });

  it('leaves what is under way, or in a closed cycle, where it is', () => {
    expect(refusalOf(state({ open: createOpen() }), pass('ada'), LEAD)).toContain('Turn 0 is under way');
    const closed = createState([createRun([createTurn(0)], { cycle: createCycleFacts({ state: 'closed' }) })]);
    expect(refusalOf(closed, pass('ada'), LEAD)).toBe('conflict: Cycle ACC-1 is closed; its turns stay as they are.');
  });

  it('by plan leaves what is under way, and says nothing of what stays', () => {
    const turns = [
      { turn: 't0' as never, personId: 'ada' as never, dueOn: '2026-11-20' },
      { turn: 't1' as never, personId: 'ada' as never, dueOn: null },
    ];
    const { state: given } = after(state({ open: createOpen() }), { kind: 'give', turns }, LEAD);
    expect([turnOf(given, 't0')?.assigneeId, turnOf(given, 't1')?.assigneeId]).toEqual(['una', 'ada']);
  });
});

describe('somebody who leaves', () => {
  it('ends her attempt as blocked, to be made anew at once, and hands on what is not through', () => {
    const state = createState([
      createRun([
        createTurn(0, { open: createOpen() }),
        createTurn(1),
        createTurn(2, { latest: createFinished('passed') }),
        createTurn(3, { assigneeId: 'ivo' as never }),
      ]),
    ]);
    const { state: left, effects } = after(state, { kind: 'leave', personId: 'una' as never, handTo: 'ivo' as never }, LEAD);
    expect(turnOf(left, 't0')).toMatchObject({
      assigneeId: 'ivo',
      open: null,
      state: 'ready',
      isRetestDue: true,
      latest: { outcome: 'blocked', isAbandoned: true },
    });
    expect([turnOf(left, 't1')?.assigneeId, turnOf(left, 't2')?.assigneeId]).toEqual(['ivo', 'una']);
    expect(effects.filter(({ kind }) => kind === 'history')).toHaveLength(2);
  });

  it('leaves closed cycles as they were', () => {
    const closed = createRun([createTurn(0)], { cycle: createCycleFacts({ state: 'closed' }) });
    expect(after(createState([closed]), { kind: 'leave', personId: 'una' as never, handTo: null }, LEAD).state.runs).toEqual([closed]);
  });
});

describe('scope and versions', () => {
  it('skips what nobody tried of a run that is dropped, and keeps what was tried; not while it is under way', () => {
    const run = createRun([createTurn(0, { latest: createFinished('passed') }), createTurn(1)]);
    const out = (to: 'dropped' | 'next cycle'): RunEvent => ({ kind: 'leave out', runs: [{ id: 'r' as never, to, reason: 'Late' }] });
    const { state } = after(createState([run]), out('dropped'), LEAD);
    expect(statuses(state)).toEqual(['done/passed', 'done/skipped']);
    expect(state.runs[0]).toMatchObject({ leftTo: 'dropped', leftReason: 'Late', outcome: 'passed' });
    expect(turnOf(state, 't1')?.doneAtMs).toBe(AT);
    expect(statuses(after(createState([run]), out('next cycle'), LEAD).state)).toEqual(['done/passed', 'ready/ready']);
    expect(refusalOf(createState([createRun([createTurn(0, { open: createOpen() })])]), out('dropped'), LEAD)).toContain(
      'its run can be taken out once that attempt is finished',
    );
  });

  it('starts nothing while it is planned; opening makes the first turns ready and tells so', () => {
    const planned = createRun([createTurn(0), createTurn(1)], { cycle: createCycleFacts({ state: 'planning' }) });
    expect(after(createState([planned]), { kind: 'start' }, LEAD).state.runs).toEqual([planned]);
    const decision = decide(createState([{ ...planned, cycle: createCycleFacts() }]), { kind: 'start' }, { by: LEAD, atMs: AT });
    expect(decision.ok && decision.effects).toEqual([{ kind: 'tell ready', turns: ['t0'] }]);
  });

  it('pins another version with its needs; what it needs and nobody gives holds it', () => {
    const needs = [{ name: 'Permit', source: { kind: 'none' as const } }];
    const event: RunEvent = { kind: 'repin', version: 2, turns: [{ turn: 't0' as never, versionId: 'v2' as never, needs }] };
    const { state } = after(createState([createRun([createTurn(0)])]), event, LEAD);
    expect(turnOf(state, 't0')).toMatchObject({
      versionId: 'v2',
      status: 'held',
      causes: [{ kind: 'value', index: null, name: 'Permit' }],
    });
  });
});
