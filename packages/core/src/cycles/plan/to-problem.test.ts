import { describe, expect, it } from 'vitest';
import { createWorkingTime } from '../../time/working-time.ts';
import { spreadOverDays } from './spread-over-days.ts';
import type { CycleToPlan } from './to-problem.ts';
import { planCycle } from './plan-cycle.ts';
import { isThrough, readWorker, toPlanProblem } from './to-problem.ts';

type Turn = CycleToPlan['turns'][number];
const turn = (index: number, more: Partial<Turn> = {}): Turn => ({
  ...{
    id: `t${index}`,
    run: 'r',
    index,
    team: 'lane',
    person: null,
    minutes: 30,
    status: 'waiting',
    dueOn: null,
    doneOn: null,
    doneBy: null,
  },
  ...{ after: index === 0 ? [] : [index - 1], waitDays: 0, samePersonAs: null, otherPersonThan: [] },
  ...more,
});
const cycle = (turns: readonly Turn[], more: Partial<CycleToPlan> = {}): CycleToPlan => ({
  ...{ firstDay: '2026-11-02', startsAt: 100, endsAt: 20_000, turns },
  teams: [{ id: 'lane', minutesByDay: [120], startsAt: 540 }],
  people: [{ id: 'una', teams: ['lane', 'other'], minutesByDay: [60], startsAt: 480 }],
  pools: [],
  runs: [
    { id: 'r', priority: 'high' },
    { id: 's', priority: 'low' },
    { id: 'u', priority: 'medium' },
  ],
  ...more,
});

describe('a cycle as a problem to plan', () => {
  it('has a job for each turn that is not through: failed and blocked ones are to be done again', () => {
    const statuses = ['passed', 'failed', 'blocked', 'skipped', 'under way', 'ready', 'held', 'waiting'] as const;
    expect(statuses.filter(isThrough)).toEqual(['passed', 'skipped']);
    const { jobs } = toPlanProblem(cycle(statuses.map((status, index) => turn(index, { status, after: [] }))));
    expect(jobs.map(({ id, isBegun }) => [id, isBegun])).toEqual([
      ['t1', false],
      ['t2', false],
      ['t4', true],
      ['t5', false],
      ['t6', false],
      ['t7', false],
    ]);
  });

  it('binds what is left to those who did what is through, whichever leg says so', () => {
    const done = { status: 'passed', person: 'una', doneBy: 'ivo' } as const;
    const { jobs } = toPlanProblem(
      cycle([
        turn(0, done),
        turn(1, { otherPersonThan: [0] }),
        turn(2, { samePersonAs: 0 }),
        turn(3, { ...done, otherPersonThan: [4], doneBy: null }),
        turn(4),
      ]),
    );
    expect(jobs.map(({ notBy, onlyBy }) => [notBy, onlyBy])).toEqual([
      [['ivo'], undefined],
      [undefined, 'ivo'],
      [['una'], undefined],
    ]);
  });

  it('makes a lane of each pool: whichever session is free does the next turn, and no rule of people binds it', () => {
    const office = { id: 'office', sessions: 2, minutesByDay: [1_440], startsAt: 0 };
    const withPool = cycle(
      [
        ...['r', 's', 'u'].map((run) => turn(0, { id: run, run, person: 'office', minutes: 10 })),
        turn(1, { samePersonAs: 0, person: 'una' }),
        turn(2, { otherPersonThan: [0, 1] }),
      ],
      { pools: [office], startsAt: 0 },
    );
    const problem = toPlanProblem(withPool);
    expect(problem.jobs.map(({ lane, worker, sameAs, otherThan }) => [lane, worker, sameAs, otherThan])).toEqual([
      ...Array.from({ length: 3 }, () => ['office', null, null, []]),
      ['lane', 'una', null, []],
      ['lane', null, null, ['t1']],
    ]);
    const { jobs } = planCycle(problem);
    expect(jobs.slice(0, 3).map(({ end }) => end)).toEqual([10, 10, 20]);
    expect(jobs.slice(0, 3).map(({ worker }) => readWorker(worker ?? ''))).toEqual(['office', 'office', 'office']);
  });

  it('carries people, lanes, hours and ranks as they are; what is less urgent is left out first', () => {
    const { workers, lanes, runs, startsAt, endsAt } = toPlanProblem(cycle([]));
    expect(workers).toEqual([{ id: 'una', lanes: ['lane', 'other'], minutesByDay: [60], startsAt: 480 }]);
    expect(lanes).toEqual([{ id: 'lane', minutesByDay: [120], startsAt: 540 }]);
    expect(runs.map(({ rank }) => rank)).toEqual([2, 0, 1]);
    expect([startsAt, endsAt]).toEqual([100, 20_000]);
  });

  it('names turns by their ids, within their run; what is not there is passed over', () => {
    const [, job] = toPlanProblem(
      cycle([
        turn(0),
        turn(1, { after: [0, 7], samePersonAs: 0, otherPersonThan: [0, 9], person: 'una' }),
        turn(0, { id: 'x0', run: 's' }),
      ]),
    ).jobs;
    expect(job).toMatchObject({ after: ['t0'], sameAs: 't0', otherThan: ['t0'], worker: 'una', lane: 'lane', minutes: 30, run: 'r' });
    expect(toPlanProblem(cycle([turn(0, { samePersonAs: 5 })])).jobs[0]?.sameAs).toBeNull();
  });

  it('lets days pass after the last of the turns before it, also where that is done already', () => {
    const done = (day: string, index: number) => turn(index, { status: 'passed', doneOn: day, after: [] });
    const notBefore = (days: readonly string[], waitDays: number) =>
      toPlanProblem(cycle([...days.map(done), turn(9, { after: days.map((_, index) => index), waitDays })])).jobs[0]?.notBefore;
    expect(notBefore(['2026-11-05', '2026-11-03'], 2)).toBe(5 * 1_440);
    expect(notBefore(['2026-10-20'], 2)).toBe(0);
    expect(notBefore(['2026-11-05'], 0)).toBe(0);
    expect(notBefore([], 3)).toBe(0);
  });
});

describe('work spread over days', () => {
  const time = createWorkingTime([60, 0, 120], 540);
  it('gives each day the minutes that are worked on it, and leaves free days out', () => {
    expect(spreadOverDays(time, 540, 2 * 1_440 + 600)).toEqual([
      { day: 0, minutes: 60 },
      { day: 2, minutes: 60 },
    ]);
    expect(spreadOverDays(time, 570, 580)).toEqual([{ day: 0, minutes: 10 }]);
    expect(spreadOverDays(time, 600, 600)).toEqual([]);
    expect(spreadOverDays(time, 2 * 1_440, 3 * 1_440)).toEqual([{ day: 2, minutes: 120 }]);
  });
});
