import type { CycleScope, FormerRuns } from '@kindred-baton/contracts/cycles/cycle';
import type { CyclePlanView, PlanTurn } from '@kindred-baton/contracts/cycles/plan';
import { planCycle } from '@kindred-baton/core/cycles/plan/plan-cycle';
import { toPlanProblem } from '@kindred-baton/core/cycles/plan/to-problem';
import { describe, expect, it } from 'vitest';
import type { Chosen } from './scope/choose-scope.ts';
import { areAllIn, chooseFormer, chooseRow, chooseScenarios, filterScenarios, measureChosen, NO_FILTER } from './scope/choose-scope.ts';
import { describeChange, describeFit } from './lanes/describe-fit.ts';
import { layOutLoad } from './lanes/lay-out-load.ts';

const turn = (id: string, more: Partial<PlanTurn> = {}): PlanTurn => ({
  ...{
    id: id as never,
    run: 'r' as never,
    index: 0,
    title: id,
    team: 't',
    person: 'p',
    minutes: 60,
    status: 'ready',
    dueOn: null,
    doneOn: null,
    doneBy: null,
  },
  ...{ after: [], waitDays: 0, samePersonAs: null, otherPersonThan: [] },
  ...more,
});
/** A Monday; two hours a day from Monday to Friday. */
const view = (turns: PlanTurn[], days = 5): CyclePlanView => {
  const minutesByDay = Array.from({ length: 60 }, (_, day) => (day % 7 < 5 ? 120 : 0));
  return {
    ...{ firstDay: '2026-11-09', startsOn: '2026-11-05', endsOn: '2026-11-13', startsAt: 0, endsAt: days * 1_440, turns },
    teams: [{ id: 't', name: 'Billing', hoursPerDay: 2, minutesByDay, startsAt: 540 }],
    pools: [],
    people: [{ id: 'p' as never, name: 'Una', teams: ['t'], minutesByDay, startsAt: 540, absences: [] }],
    runs: [{ id: 'r' as never, number: 1, scenario: 'S', name: 'S', priority: 'low' }],
  };
};
const fit = (of: CyclePlanView) => describeFit(of, planCycle(toPlanProblem(of)));

describe('whether it fits, in words', () => {
  const work = (count: number) => Array.from({ length: count }, (_, i) => turn(String(i), { index: i }));
  it.each([
    [4, 'It fits, with three days to spare'],
    [10, 'It just fits'],
    [12, 'One day late'],
    [14, 'Two days late'],
    [0, 'Nothing is left to do'],
  ])('with %i hours to do: %s', (hours, words) => expect(fit(view(work(hours)))).toBe(words));

  it('says when nobody can do it', () => expect(fit({ ...view(work(1)), people: [] })).toBe('Nobody can do it'));

  it('names what is tried', () =>
    expect([
      describeChange(view([]), { kind: 'more people', lane: 't', count: 2 }),
      describeChange(view([]), { kind: 'move person', person: 'p', lane: 't' }),
    ]).toEqual(['2 more testers in Billing', 'Una to Billing']));
});

describe('the load of lanes and days', () => {
  const turns = [
    turn('late', { dueOn: '2026-11-06' }),
    turn('today', { dueOn: '2026-11-09' }),
    turn('then', { dueOn: '2026-11-11' }),
    turn('done', { status: 'passed', doneOn: '2026-11-05', dueOn: '2026-11-06' }),
  ];

  it('counts what is overdue today, what is done on its day, and leaves out days on which nobody works', () => {
    const chart = layOutLoad(view(turns), null);
    const at = (day: string) => chart.lanes[0]?.days[chart.days.indexOf(day)];
    expect(at('2026-11-09')).toEqual({ done: 0, toDo: 120, time: 120 });
    expect(at('2026-11-05')).toEqual({ done: 60, toDo: 0, time: null });
    expect(chart.days).not.toContain('2026-11-08');
    expect(chart.lanes[0]).toMatchObject({ minutesLeft: 180, minutesOfTime: 600 });
  });

  it('as planned never asks for more of a day than there is', () => {
    const of = view(Array.from({ length: 9 }, (_, i) => turn(String(i), { index: i, dueOn: '2026-11-09' })));
    const chart = layOutLoad(of, planCycle(toPlanProblem(of)));
    expect(chart.lanes[0]?.days.every(({ toDo, time }) => toDo <= (time ?? 0))).toBe(true);
    expect(chart.lanes[0]?.people[0]?.days.reduce((sum, { toDo }) => sum + toDo, 0)).toBe(540);
  });
});

describe('choosing a scope', () => {
  const scenario = (id: string, more: object = {}) => ({
    ...{
      id,
      code: id,
      name: id,
      state: 'agreed',
      priority: 'high',
      node: { code: 'N', name: 'N' },
      passes: ['N'],
      requirements: [],
      legs: 3,
      openLegs: 0,
      errors: 0,
      minutes: 30,
    },
    rows: [
      { id: `${id}1`, name: 'one' },
      { id: `${id}2`, name: 'two' },
    ],
    ...more,
  });
  const scope = {
    scenarios: [scenario('a', { requirements: ['RQ-1'] }), scenario('b', { state: 'sketch' })],
    former: [{ code: 'C-1', name: 'C-1' }],
    suggestedCodes: {},
  } as unknown as CycleScope;
  const former = {
    runs: [
      { scenarioId: 'a', rowId: 'a1', outcome: 'failed', isLeftToNext: false },
      { scenarioId: 'a', rowId: 'gone', outcome: 'failed', isLeftToNext: false },
      { scenarioId: 'b', rowId: 'b2', outcome: 'passed', isLeftToNext: false },
      { scenarioId: 'b', rowId: 'b1', outcome: 'failed', isLeftToNext: true },
    ],
  } as unknown as FormerRuns;

  it('filters by state, words and requirement', () => {
    const ids = (filter: object) => filterScenarios(scope.scenarios, { ...NO_FILTER, ...filter }, () => true).map(({ id }) => id);
    expect([ids({}), ids({ state: 'sketch' }), ids({ requirement: 'RQ-1' }), ids({ words: 'zz' })]).toEqual([['a', 'b'], ['b'], ['a'], []]);
  });

  it('takes of a former cycle what failed, what was left, or all, as far as it is still there', () => {
    const pick = (part: 'failed' | 'not run' | 'all') =>
      Object.fromEntries([...chooseFormer(scope.scenarios, former, part)].map(([id, rows]) => [id, [...rows]]));
    expect(pick('failed')).toEqual({ a: ['a1'], b: ['b1'] });
    expect(pick('not run')).toEqual({ b: ['b1'] });
    expect(pick('all')).toEqual({ a: ['a1'], b: ['b2', 'b1'] });
    expect(measureChosen(scope.scenarios, chooseFormer(scope.scenarios, former, 'all'))).toEqual({ runs: 3, turns: 9, minutes: 90 });
  });

  it('a filter takes in and out only what it shows; what was chosen before stays', () => {
    const [a, b] = scope.scenarios;
    const empty = { ...scenario('c'), legs: 0 } as unknown as typeof a;
    if (!a || !b || !empty) throw new Error('The scope has two scenarios.');
    const pick = (chosen: Chosen) => Object.fromEntries([...chosen].map(([id, rows]) => [id, [...rows]]));
    const one = chooseRow(new Map(), 'a', 'a2', true);
    const both = chooseScenarios(one, [b, empty], true);
    expect(pick(both)).toEqual({ a: ['a2'], b: ['b1', 'b2'] });
    expect(pick(chooseScenarios(both, [b], false))).toEqual({ a: ['a2'] });
    expect(pick(one)).toEqual({ a: ['a2'] });
    expect([areAllIn(both, [a, b, empty]), areAllIn(one, [a, b]), areAllIn(both, [empty]), areAllIn(both, [])]).toEqual([
      true,
      false,
      false,
      false,
    ]);
  });

  it('a scenario is out without its last row', () => {
    const chosen = chooseRow(chooseRow(new Map(), 'a', 'a1', true), 'a', 'a2', true);
    expect([...(chosen.get('a') ?? [])]).toEqual(['a1', 'a2']);
    expect(chooseRow(chooseRow(chosen, 'a', 'a1', false), 'a', 'a2', false).size).toBe(0);
  });
});
