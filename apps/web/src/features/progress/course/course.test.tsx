import { getLastWorkingDay } from '@kindred-baton/core/time/since-when';
import type { PackedCourse } from '@kindred-baton/contracts/progress/course';
import type { Outlook } from '@kindred-baton/contracts/progress/outlook';
import type { Since } from '@kindred-baton/contracts/progress/since';
import type { CourseTurn } from '@kindred-baton/core/progress/course';
import { unpackFacts } from '@kindred-baton/core/progress/course';
import { drawCurves } from '@kindred-baton/core/progress/draw-curve';
import type { Forecast, ForecastLine } from '@kindred-baton/core/progress/forecast';
import { packRows } from '@kindred-baton/core/tables/pack-rows';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { openScreen } from '../../../../test-support/open-screen.tsx';
import { describePoint, toChartOption } from './chart-option.ts';
import { getStartOfDay, keepVisit, readLastVisit } from './choose-since.ts';
import { CourseTable } from './course-table.tsx';
import { CourseTeams } from './course-teams.tsx';
import { describeEnd, describeGrounds } from './describe-course.ts';
import type { Told } from './forecaster.ts';
import { createForecaster } from './forecaster.ts';
import { layOutCourse, layOutOdds } from './lay-out-course.ts';
import { OddsPanel } from './odds-panel.tsx';
import { RemediesPanel } from './remedies-panel.tsx';
import { SincePanel } from './since-panel.tsx';

const turn = (own: Partial<CourseTurn> = {}): CourseTurn => ({
  ...{ group: 0, lane: 0, run: 0, index: 0, after: [], waitDays: 0, minutes: 30, dueOn: 4, leftOutOn: null, isSparable: false },
  ...{ isThrough: false, isWrong: false, isStopped: false, isCounted: true },
  ...own,
});

/** Opened on Fri 20 Nov; today is Tue 24 Nov. Four turns, two of them through; a fifth went on Monday. */
const createCourse = (own: Partial<PackedCourse> = {}): PackedCourse => ({
  ...{ firstDay: '2026-11-20', today: 4, firstShare: 1, todayShare: 0.5, plannedDay: 7, isOver: false },
  groups: [
    { key: 'Billing', name: 'Billing' },
    { key: '-', name: 'No team' },
  ],
  lanes: [
    { name: 'Billing', people: 2, minutesByDay: [240, 0, 0, 240, 240, 240, 240, 240, 0, 0, 240, 240] },
    { name: 'No team', people: 0, minutesByDay: new Array<number>(12).fill(0) },
  ],
  turns: packRows(
    [turn({ isThrough: true }), turn({ run: 1, isThrough: true }), turn({ run: 2, isWrong: true }), turn({ run: 3, group: 1, lane: 1 })],
    [],
  ),
  tries: packRows(
    [
      { turn: 0, day: 0, lane: 0, isThrough: true },
      { turn: 1, day: 3, lane: 0, isThrough: true },
      { turn: 2, day: 3, lane: 0, isThrough: false },
    ],
    [],
  ),
  baseline: [
    { day: 0, group: 0, turns: 1, minutes: 30 },
    { day: 3, group: 0, turns: 2, minutes: 60 },
    { day: 7, group: 1, turns: 2, minutes: 60 },
  ],
  scopeChanges: [{ day: 3, at: '2026-11-23T10:00:00.000Z', turns: -1, minutes: null, why: 'No data.' }],
  ...own,
});

const line = (own: Partial<ForecastLine> = {}): ForecastLine => ({
  ...{ ends: { median: 7, late: 11, inTime: 0.6 }, stuck: 0 },
  fan: [
    { day: 4, low: 2, middle: 2, high: 3 },
    { day: 7, low: 2, middle: 3, high: 4 },
  ],
  ...own,
});
const createForecast = (own: Partial<Forecast> = {}): Forecast => ({
  ...{ paths: 2_000, all: line(), groups: [line(), line({ ends: null, fan: [], stuck: 1 })], decides: [1, 0] },
  spread: [
    { day: 6, paths: 200 },
    { day: 7, paths: 1_000 },
    { day: 11, paths: 800 },
  ],
  paces: [
    { from: 'days', days: 4 },
    { from: 'plan', days: 0 },
  ],
  repairs: { done: 2, waiting: 1, median: 3, isGuess: false },
  ...own,
});

function layOut(
  course = createCourse(),
  { group = null, unit = 'turns', isBranch = false }: { group?: number | null; unit?: 'turns' | 'minutes'; isBranch?: boolean } = {},
) {
  const facts = unpackFacts(course);
  const curves = drawCurves(facts, unit);
  return layOutCourse({
    course,
    facts,
    unit,
    group,
    isBranch,
    fan: line().fan,
    curve: group === null ? curves.all : curves.groups[group]!,
  });
}

const OUTLOOK: Outlook = {
  ...{ cycle: 'ACC-2', criteria: [], decisions: [], unmet: { requirements: 20, nodes: 1 } },
  left: {
    ...{ turns: 2, runs: 1, requirements: { total: 14, first: [{ code: 'RQ-004', title: 'Quotes are priced' }] } },
    nodes: { total: 1, first: [{ code: 'LR', title: 'Leak to repair' }] },
  },
};

describe('a course', () => {
  it('has the days on which somebody works or something was planned: what is past, what is expected, what came and went', () => {
    const { points, behind, total, through, wrong } = layOut();
    expect(points.map(({ date }) => date)).toEqual(['2026-11-20', '2026-11-23', '2026-11-24', '2026-11-25', '2026-11-26', '2026-11-27']);
    expect(points.map((point) => [point.planned, point.through, point.wrong, point.scope, point.forecast?.middle])).toEqual([
      [1, 1, 0, 5, undefined],
      [3, 2, 1, 4, undefined],
      [3, 2, 1, 4, 2],
      [3, null, null, 4, undefined],
      [3, null, null, 4, undefined],
      [5, null, null, 4, 3],
    ]);
    expect({ behind, total, through, wrong }).toEqual({ behind: 1, total: 4, through: 2, wrong: 1 });
  });

  it('of a team, of a branch and in minutes says what is known of it', () => {
    expect(layOut(createCourse(), { group: 1 })).toMatchObject({ total: 1, through: 0, behind: 0 });
    expect(layOut(createCourse(), { isBranch: true }).points[0]!.scope).toBe(4);
    // Of the change no minutes were noted.
    expect(layOut(createCourse(), { unit: 'minutes' })).toMatchObject({ total: 120, through: 60, behind: 30 });
    expect(layOut(createCourse(), { unit: 'minutes' }).points[0]!.scope).toBe(120);
    expect(layOut(createCourse({ baseline: [] })).behind).toBeNull();
    expect(layOut(createCourse({ isOver: true })).behind).toBe(1);
  });

  it('is drawn with round numbers at its side, and without today where it is over', () => {
    const { points } = layOut();
    const parts = { points, today: 4, plannedDay: 7, median: 7, late: 11, format: String, unit: 'turns' as const };
    const colours = { ink: '', soft: '', line: '', passed: '', failed: '', baton: '', tint: '', sheet: '' };
    const draw = (isOver: boolean) =>
      toChartOption({ ...parts, isOver }, { colours, isNarrow: false, toBox: () => document.createElement('div') });
    expect(draw(false).yAxis).toMatchObject({ interval: 1, max: 5 });
    expect(
      [draw(false), draw(true)].map(({ series: [today] }) => (today as { markLine: { data: unknown[] } }).markLine.data.length),
    ).toEqual([1, 0]);
    expect(describePoint(points[1], String)).toEqual(['Mon 23 Nov', '2 through', '1 went wrong', '3 planned', '4 in scope']);
    expect(describePoint(points.at(-1), String)).toEqual(['Fri 27 Nov', '5 planned', '2 to 4 expected', '4 in scope']);
    expect(describePoint(undefined, String)).toEqual([]);
  });

  it('says in its first line when it ends, or why that cannot be said', () => {
    const say = (course: PackedCourse, forecast: Forecast | null) => Object.values(describeEnd(course, forecast)).join('');
    const course = createCourse();
    const of = (own: Partial<ForecastLine>) => say(course, createForecast({ all: line(own) }));
    expect(of({})).toBe('Even odds by Fri 27 Nov, 85% by Tue 1 Dec; planned Fri 27 Nov');
    expect(of({ ends: { median: 7, late: null, inTime: 0.6 }, stuck: 1 })).toBe(
      'Even odds by Fri 27 Nov, 85% not within the days that were looked at, but for 1 turn without an end; planned Fri 27 Nov',
    );
    expect(of({ ends: { median: null, late: null, inTime: 0 } })).toBe(
      'At this pace it does not end within the days that were looked at; planned Fri 27 Nov',
    );
    expect(of({ ends: null })).toBe('All is through; planned Fri 27 Nov');
    expect(of({ ends: null, stuck: 3 })).toBe('No end can be foretold; planned Fri 27 Nov');
    expect(say(createCourse({ isOver: true }), null)).toBe('Closed Tue 24 Nov; planned Fri 27 Nov');
    expect(say(course, null)).toBe('Drawing what may come … planned Fri 27 Nov');
  });

  it('says what the forecast rests on, and marks what was guessed', () => {
    expect(describeGrounds(createCourse(), unpackFacts(createCourse()), createForecast())).toEqual([
      'From this cycle’s own days, drawn 2,000 times.',
      'Of what went wrong half is tried again within 3 days (2 were, 1 waits).',
    ]);
    const few = createForecast({ repairs: { done: 1, waiting: 9, median: 4, isGuess: true } });
    expect(describeGrounds(createCourse(), unpackFacts(createCourse()), few)[1]).toBe(
      'A guess: of what went wrong only 1 was tried again, 9 wait; half is taken to be tried again within 4 days.',
    );
    const guessed = createForecast({
      ...{ all: line({ stuck: 1 }), repairs: { done: 0, waiting: 1, median: null, isGuess: true } },
      paces: [
        { from: 'plan', days: 1 },
        { from: 'plan', days: 0 },
      ],
    });
    expect(describeGrounds(createCourse(), unpackFacts(createCourse()), guessed)).toEqual([
      'From this cycle’s own days, drawn 2,000 times.',
      'A guess: Billing has fewer than 3 days of work to go by; the plan’s pace is taken.',
      'A guess: nothing that went wrong has been tried again yet; a repair is taken to last until the next day.',
      '1 turn is left out: nobody is in No team, or they wait for that.',
    ]);
  });
});

describe('forty ends', () => {
  it('stand by day as often as paths end there, full where they are in time', () => {
    expect(layOutOdds(createForecast(), 7)).toEqual([
      { day: 6, dots: 4, isInTime: true },
      { day: 7, dots: 20, isInTime: true },
      { day: 11, dots: 16, isInTime: false },
    ]);
  });

  it('that do not end within the days, and those on many days, are later', () => {
    expect(layOutOdds({ paths: 40, spread: [{ day: 6, paths: 10 }] }, 7)).toEqual([
      { day: 6, dots: 10, isInTime: true },
      { day: null, dots: 30, isInTime: false },
    ]);
    const wide = layOutOdds({ paths: 40, spread: Array.from({ length: 40 }, (_, day) => ({ day, paths: 1 })) }, 7);
    expect(wide).toHaveLength(12);
    expect(wide.at(-1)).toEqual({ day: null, dots: 29, isInTime: false });
  });
});

describe('beside a course', () => {
  it('the teams have their own ends; pressing one draws it alone, its number opens its turns', async () => {
    const course = createCourse();
    const onChoose = vi.fn();
    const { groups } = drawCurves(unpackFacts(course), 'turns');
    openScreen(
      <CourseTeams
        {...{ course, curves: groups, totals: [3, 1], forecast: createForecast(), format: String, chosen: '-', lastDay: 7, onChoose }}
        toTurns={(team, status) => `/turns?team=${team}&status=${status}`}
        helpPath="/lanes"
      />,
    ).show();
    const cellsOf = (name: string) =>
      [...screen.getByRole('button', { name }).closest('tr')!.querySelectorAll('td')].map((cell) => cell.textContent);
    expect(cellsOf('Billing')).toEqual(['2 of 3', '', 'Fri 27 Nov', '60%', '100%', '']);
    expect(cellsOf('No team')).toEqual(['0 of 1', '', 'no end: nobody is there', '–', '–', '']);
    expect(screen.getByRole('link', { name: '2' })).toHaveProperty('search', '?team=Billing&status=passed,skipped');
    await userEvent.click(screen.getByRole('button', { name: 'Billing' }));
    await userEvent.click(screen.getByRole('button', { name: 'No team' }));
    expect(onChoose.mock.calls).toEqual([['Billing'], [null]]);
  });

  it('its numbers stand in a table, the days that were opening what was tried', () => {
    openScreen(<CourseTable points={layOut().points} isOver={false} format={String} toDay={(date) => `/turns?tried=${date}`} />).show();
    const rows = screen.getAllByRole('row').map((row) =>
      within(row)
        .getAllByRole(row.querySelector('td') ? 'cell' : 'columnheader')
        .map(({ textContent }) => textContent),
    );
    expect(rows[2]).toEqual(['3', '2', '1', '4', '–', '–', '–']);
    expect(rows.at(-1)).toEqual(['5', '–', '–', '4', '2', '3', '4']);
    expect(screen.getAllByRole('link').map((link) => link.getAttribute('href'))).toEqual(
      ['20', '23', '24'].map((day) => `/turns?tried=2026-11-${day}`),
    );
  });

  it('the odds are said in words, and what would help with its odds', () => {
    const course = createCourse();
    const forecast = createForecast();
    openScreen(
      <>
        <OddsPanel course={course} facts={unpackFacts(course)} forecast={forecast} />
        <RemediesPanel
          {...{ cycle: 'ACC-2', course, forecast, helpPath: '/lanes', isBranch: true, outlook: OUTLOOK }}
          remedies={[
            { remedy: { kind: 'person', lane: 0 }, ends: { median: 6, late: 7, inTime: 0.9 } },
            { remedy: { kind: 'leave out', turns: 2 }, ends: { median: null, late: null, inTime: 0.7 } },
            { remedy: { kind: 'repair' }, ends: { median: 7, late: 10, inTime: 0.65 } },
          ]}
        />
      </>,
    ).show();
    const odds = within(screen.getByRole('region', { name: 'What the odds say' }));
    expect(odds.getAllByRole('definition').map(({ textContent }) => textContent)).toEqual(['60%', 'Fri 27 Nov', 'Tue 1 Dec']);
    const helps = within(screen.getByRole('region', { name: 'What would help' }));
    expect(helps.getAllByRole('listitem').map(({ textContent }) => textContent)).toEqual([
      'One more in Billingeven odds by Thu 26 Nov, 85% by Fri 27 Nov; in time 90%',
      'Runs of low priority that nobody has begun left out: 2 turnseven odds by a later day, 85% by a later day; in time 70%' +
        'leaves 14 requirements without a turn that could show them: RQ-004and 13 more1 critical process not signed off would be tested less: LR',
      'What goes wrong repaired by the next dayeven odds by Fri 27 Nov, 85% by Mon 30 Nov; in time 65%',
      'An end on Tue 1 Decin time 85%, with nothing else changed',
      'Nothing is changedin time 60%open today: 20 requirements not verified, 1 critical process not signed off',
    ]);
  });
});

describe('a forecaster', () => {
  function start() {
    const workers: { say: (data: unknown) => void; break: () => void; asked: unknown; isGone: boolean }[] = [];
    const told: Told[] = [];
    const forecaster = createForecaster(
      () => {
        const heard = new Map<string, (event: unknown) => void>();
        const own = {
          say: (data: unknown) => heard.get('message')?.({ data }),
          break: () => heard.get('error')?.({}),
          asked: null as unknown,
          isGone: false,
        };
        workers.push(own);
        return {
          addEventListener: (name: string, hear: (event: unknown) => void) => void heard.set(name, hear),
          postMessage: (request: unknown) => void (own.asked = request),
          terminate: () => void (own.isGone = true),
        } as never;
      },
      (one) => void told.push(one),
    );
    const ask = (about: string, plannedDay: number) =>
      forecaster.ask(about, { facts: null as never, options: { unit: 'turns', plannedDay } });
    const listAsked = () => workers.map(({ asked }) => (asked as { options: { plannedDay: number } }).options.plannedDay);
    return { workers, told, forecaster, ask, listAsked };
  }

  it('ends what it has begun, however often the cycle changes meanwhile, and goes on with the newest alone', () => {
    const { workers, told, ask, listAsked } = start();
    for (const day of [1, 2, 3]) ask('ACC-2', day);
    expect(listAsked()).toEqual([1]);
    workers[0]!.say({ kind: 'forecast' });
    expect(listAsked()).toEqual([1]);
    workers[0]!.say({ kind: 'remedies' });
    expect([listAsked(), workers[0]!.isGone]).toEqual([[1, 3], true]);
    workers[1]!.break();
    expect(told.map(({ message }) => message?.kind ?? null)).toEqual(['forecast', 'remedies', null]);
    ask('ACC-2', 4);
    expect(listAsked()).toEqual([1, 3, 4]);
  });

  it('leaves what nobody wants any more at once', () => {
    const { workers, forecaster, ask, listAsked } = start();
    ask('ACC-2', 1);
    ask('ACC-2', 2);
    ask('INT-1', 5);
    expect([listAsked(), workers[0]!.isGone]).toEqual([[1, 5], true]);
    forecaster.stop();
    expect(workers[1]!.isGone).toBe(true);
  });
});

describe('what changed', () => {
  it('is since the last working day, the start of a day of the programme, or when this browser was here', () => {
    const monday = Date.parse('2026-11-30T10:40:31Z');
    expect(getLastWorkingDay(monday, 'Europe/London')).toBe('2026-11-27T10:40:00.000Z');
    expect(getLastWorkingDay(monday + 86_400_000, 'Europe/London')).toBe('2026-11-30T10:40:00.000Z');
    expect(['Europe/London', 'Asia/Kolkata', 'America/New_York'].map((zone) => getStartOfDay('2026-07-01', zone))).toEqual([
      '2026-06-30T23:00:00.000Z',
      '2026-06-30T18:30:00.000Z',
      '2026-07-01T04:00:00.000Z',
    ]);
    expect(readLastVisit('/brindlemere')).toBeNull();
    keepVisit('/brindlemere', monday);
    expect(readLastVisit('/brindlemere')).toBe('2026-11-30T10:40:31.000Z');
    localStorage.setItem('kindred-baton-last-seen:/brindlemere', 'long ago');
    expect(readLastVisit('/brindlemere')).toBeNull();
  });

  const SINCE: Since = {
    ...{ since: '2026-11-23T09:00:00.000Z', passed: 12, failed: 2, blocked: 1, ready: 5 },
    ...{ found: [{ code: 'TQ-1', title: 'No letter' }], fixed: [] },
  };

  it('opens what it counts, and goes as a paragraph into a mail', async () => {
    localStorage.clear();
    const { server, show, user } = openScreen(
      <SincePanel
        {...{ cycle: { code: 'ACC-2', name: 'Acceptance 2' }, scope: 'NS', end: 'Even odds by Fri 27 Nov.' }}
        toTurns={(filters) => `/turns?${new URLSearchParams(filters)}`}
      />,
    );
    server.on('getSince', () => SINCE);
    show();
    const panel = within(await screen.findByRole('region', { name: 'What changed' }));
    expect((await panel.findByRole('link', { name: '12' })).getAttribute('href')).toBe(
      '/turns?status=passed&doneSince=2026-11-23T09%3A00%3A00.000Z',
    );
    expect(panel.getByRole('link', { name: '3' }).getAttribute('href')).toContain('status=failed%2Cblocked');
    expect(panel.getByRole('link', { name: '5' }).getAttribute('href')).toContain('readySince=');
    expect(panel.getByRole('link', { name: 'TQ-1 No letter' })).toBeDefined();
    await user.click(panel.getByRole('button', { name: 'Copy as text' }));
    expect(await navigator.clipboard.readText()).toBe(
      'Acceptance 2, since Monday 23 November 2026 at 09:00: 12 turns passed, 3 failed or were blocked, 5 came to hand. New: TQ-1 (No letter). Fixed: no defect. Even odds by Fri 27 Nov.',
    );
  });
});
