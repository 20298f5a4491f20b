import type { HoldsView, HoldView } from '@kindred-baton/contracts/progress/holds';
import type { ProgressAxis, ProgressView } from '@kindred-baton/contracts/progress/progress';
import type { FacetName } from '@kindred-baton/core/progress/facet';
import { addCounts, NO_COUNTS } from '@kindred-baton/core/progress/tally';
import type { Counts } from '@kindred-baton/core/progress/tally';
import { cleanup, screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { openScreen } from '../../../test-support/open-screen.tsx';
import { HoldList } from './hold-list.tsx';
import { ProgressTable } from './progress-table.tsx';
import { readTableQuery } from './table-query.ts';

const counts = (more: Partial<Counts>): Counts => ({ ...NO_COUNTS, ...more });
const CELLS = [
  [counts({ passed: 3, failed: 1, ready: 2 }), counts({ skipped: 2, waiting: 1 })],
  [NO_COUNTS, counts({ passed: 5, blocked: 1 })],
];
const sumUp = (own: readonly Counts[]) => own.reduce(addCounts, NO_COUNTS);
const toAxis = (facet: FacetName, entries: readonly [string, string, string, Counts][]): ProgressAxis => ({
  ...{ facet, isMany: false, from: 0, size: entries.length },
  entries: entries.map(([key, name, group, own]) => ({ key, name, group, counts: own })),
});
const VIEW = {
  chosen: [{ code: 'ACC-2', name: 'Acceptance 2', state: 'open', startsOn: '2026-11-02', endsOn: '2026-11-20' }],
  cycles: [],
  path: [],
  rows: toAxis('process', [
    ['NS-1', 'Apply', 'New supply', sumUp(CELLS[0] ?? [])],
    ['', 'no process', 'New supply', sumUp(CELLS[1] ?? [])],
  ]),
  columns: toAxis('team', [
    ['team-b', 'Billing', '', sumUp(CELLS.flatMap(([first]) => first ?? []))],
    ['', 'no team', '', sumUp(CELLS.flatMap(([, second]) => second ?? []))],
  ]),
  cells: CELLS.flatMap((line, row) => line.map((own, column) => ({ row, column, counts: own }))),
  total: sumUp(CELLS.flat()),
} satisfies ProgressView;
const open = (view: ProgressView = VIEW, address = '/progress') => {
  const query = readTableQuery((name) => new URLSearchParams(address.split('?')[1]).get(name));
  const opened = openScreen(<ProgressTable view={view} query={query} />, { address });
  opened.show();
  return opened;
};
const numbers = () => screen.getAllByRole('link').filter(({ textContent }) => /\d/.test(textContent));
const texts = () => numbers().map(({ textContent }) => textContent);
const queryOf = (link: HTMLElement | undefined) => Object.fromEntries(new URL((link as HTMLAnchorElement).href).searchParams);

describe('the progress table', () => {
  it('counts in each cell what is run of what is to run, and in all of a row; what is left out is not to run', () => {
    open();
    expect(texts()).toEqual(['4/7', '4/6', '0/1', '5/6', '5/6', '9/13', '4/6', '5/7']);
  });

  it('says of rows, columns and all how much is run, and how much of that passed', () => {
    open();
    const lines = screen.getAllByRole('row').map((row) => row.textContent);
    expect(lines[1]).toMatch(/4\/757%75%/);
    expect(lines[2]).toMatch(/5\/683%100%/);
    expect(lines[3]).toMatch(/9\/1369%89%/);
    expect(lines.slice(4)).toEqual(['Run67%71%', 'Passed75%100%']);
  });

  it('opens what each number counts, with nobody and nothing as a filter of their own, and the strip’s scope', () => {
    open(VIEW, '/progress?scope=NS&application=Kestrel');
    const own = { scope: 'NS', application: 'Kestrel' };
    expect(queryOf(numbers()[1])).toEqual({ ...own, node: 'NS-1', team: 'team-b' });
    expect(queryOf(numbers()[4])).toEqual({ ...own, node: '-', team: '-' });
    expect(queryOf(numbers()[6])).toEqual({ ...own, team: 'team-b' });
    expect(queryOf(numbers()[5])).toEqual(own);
  });

  it('shows of each bar only the parts that are wanted, and opens those', () => {
    open(VIEW, '/progress?parts=errors,rest');
    expect(texts()).toEqual(['4', '3', '1', '1', '1', '5', '3', '2']);
    expect(queryOf(numbers()[1])).toEqual({ node: 'NS-1', team: 'team-b', status: 'failed,blocked,under way,ready,waiting,held' });
  });

  it('opens of whole runs those that stand so, and says minutes as hours', () => {
    open(VIEW, '/progress?parts=errors&counted=runs');
    expect(queryOf(numbers()[1])).toEqual({ node: 'NS-1', team: 'team-b', status: 'failed,blocked', counted: 'runs' });
    cleanup();
    open({ ...VIEW, total: counts({ passed: 90, ready: 60 }) }, '/progress?counted=minutes');
    expect(texts()[5]).toBe('1 h 30/2 h 30');
  });

  it('goes one level down by a heading: into a process, by the people of a team; what is nothing opens its turns', async () => {
    const { user } = open();
    expect(screen.getByRole('link', { name: 'Turns of no process' }).getAttribute('href')).toBe('/brindlemere/cycles/ACC-2/turns?node=-');
    await user.click(screen.getByRole('link', { name: 'Look into Apply' }));
    expect(location.search).toBe('?scope=NS-1');
    await user.click(screen.getByRole('link', { name: 'Look into Billing' }));
    expect(location.search).toBe('?scope=NS-1&team=team-b&columns=person');
  });

  it('says that what stands under several values is one in all', () => {
    open({ ...VIEW, rows: { ...VIEW.rows, facet: 'tag', isMany: true } });
    expect(screen.getByText(/more than one tag stands under each, and is counted once in All/)).toBeTruthy();
  });

  it('names a group once, and draws nothing for an empty cell', () => {
    open();
    expect(screen.getAllByText('New supply')).toHaveLength(1);
    expect(screen.getAllByText('–')).toHaveLength(1);
  });

  it('says so when there are no turns', () => {
    open({ ...VIEW, rows: toAxis('process', []) });
    expect(screen.getByText('No turns here')).toBeTruthy();
  });

  it('comes in pages: says which rows and columns these are of how many, and leads on', async () => {
    const entries = Array.from({ length: 100 }, (_, row) => ({ key: `S-${row}`, name: `Scenario ${row}`, group: '', counts: NO_COUNTS }));
    const rows = { facet: 'scenario' as const, isMany: false, from: 100, size: 2_021, entries };
    const { user } = open({ ...VIEW, rows, cells: [] }, '/progress?fromRow=100');
    const pages = screen.getByRole('navigation', { name: 'Pages: Scenario' });
    expect(pages.textContent).toContain('Scenario 101 to 200 of 2,021');
    await user.click(within(pages).getByRole('button', { name: 'Next' }));
    expect(location.search).toBe('?fromRow=200');
    await user.click(within(pages).getByRole('button', { name: 'Before' }));
    expect(location.search).toBe('?fromRow=99');
    expect(screen.queryByRole('navigation', { name: 'Pages: Team' })).toBeNull();
  });
});

describe('where the baton is held', () => {
  const hold = (key: string, waiting: number, more: Partial<HoldView> = {}): HoldView =>
    ({
      ...{ kind: 'defect', key, title: `TQ-${key}`, detail: 'wrong price', since: null, waiting, teams: 2, minutes: 90 },
      opens: { kind: 'defect', code: `TQ-${key}` },
      ...more,
    }) as HoldView;
  const show = (holds: HoldView[], waitingBehindHolds: number, more: Partial<HoldsView> = {}) =>
    openScreen(
      <HoldList
        view={{ quiet: 0, moreHolds: [], holds, held: holds.length, waitingBehindHolds, ...more }}
        cycle="ACC-2"
        isNarrowed={false}
      />,
    );

  it('says it in the first line, counts a turn behind two holds once, and opens the turns behind each, and what holds them', () => {
    show(
      [
        hold('1', 8),
        hold('2', 5, { kind: 'block', opens: { kind: 'turn', id: 't-2' as never } }),
        hold('3', 1, { kind: 'idle', opens: null }),
      ],
      9,
    ).show();
    expect(screen.getByText('9 turns waiting behind 3 holds')).toBeTruthy();
    const links = screen.getAllByRole('link') as HTMLAnchorElement[];
    expect(links[0]?.textContent).toBe('8waiting behind TQ-1');
    expect(screen.getAllByText(/2 teams · 1 h 30 of work/)).toHaveLength(3);
    const behind = (index: number) => new URL(links[index]?.href ?? '').searchParams.get('hold');
    expect([behind(0), behind(2), behind(4)]).toEqual(['defect:1', 'block:2', 'idle:3']);
    const paths = [1, 3].map((index) => new URL(links[index]?.href ?? '').pathname);
    expect(paths).toEqual(['/brindlemere/defects/TQ-1', '/brindlemere/turns/t-2']);
    expect(behind(5)).toBe('idle:3');
  });

  it('does not count what nothing waits behind as a hold, and says how many there are', () => {
    show([hold('1', 3)], 3, { quiet: 2 }).show();
    expect(screen.getByText('3 turns waiting behind 1 hold')).toBeTruthy();
    expect(screen.getByText('2 more failures with nothing waiting behind.')).toBeTruthy();
  });

  it('shows the first few, and all when asked', async () => {
    const { user, show: draw } = show(
      Array.from({ length: 10 }, (_, index) => hold(String(index), 10 - index)),
      20,
    );
    draw();
    expect(screen.getAllByRole('link')).toHaveLength(2 * 7);
    await user.click(screen.getByRole('button', { name: 'Show all 10 holds' }));
    expect(screen.getAllByRole('link')).toHaveLength(2 * 10);
  });

  it('tells the rest by team, each of which opens its own', async () => {
    const holds = Array.from({ length: 40 }, (_, index) => hold(String(index), 50 - index));
    const moreHolds = [
      { key: 'Billing', team: 'Billing', holds: 120, waiting: 260 },
      { key: '-', team: 'No team', holds: 1, waiting: 1 },
    ];
    const { user, show: draw } = show(holds, 900, { held: 161, moreHolds });
    draw();
    expect(screen.getByText('900 turns waiting behind 161 holds')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Show the longest 40 holds' })).toBeTruthy();
    expect(screen.getByText('120 holds, 260 waiting')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Billing' }));
    expect(location.search).toBe('?holdsOf=Billing');
  });

  it('says that it is held nowhere', () => {
    show([], 0).show();
    expect(screen.getByText('Nowhere. Every turn that is not done can go on.')).toBeTruthy();
  });
});
