import type { HoldView, ProgressAxis, ProgressView } from '@kindred-baton/contracts/progress/progress';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import type { Counts } from '@kindred-baton/core/progress/tally';
import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { openScreen } from '../../../test-support/open-screen.tsx';
import { HoldList } from './hold-list.tsx';
import { ProgressTable } from './progress-table.tsx';

const counts = (more: Partial<Counts>): Counts => ({ ...NO_COUNTS, ...more });
const CELLS = [
  [counts({ passed: 3, failed: 1, ready: 2 }), counts({ skipped: 2, waiting: 1 })],
  [NO_COUNTS, counts({ passed: 5, blocked: 1 })],
];
const toAxis = (entries: ProgressAxis['entries']): ProgressAxis => ({ from: 0, size: entries.length, entries });
const VIEW = {
  cycle: { code: 'ACC-2', name: 'Acceptance 2' },
  rows: toAxis([
    { key: 'NS-1', name: 'Apply', group: 'New supply' },
    { key: '', name: 'no process', group: 'New supply' },
  ]),
  columns: toAxis([
    { key: 'team-b', name: 'Billing', group: '' },
    { key: '', name: 'no team', group: '' },
  ]),
  cells: CELLS.flatMap((line, row) => line.map((own, column) => ({ row, column, counts: own }))),
  columnTotals: [counts({ passed: 3, failed: 1, ready: 2 }), counts({ skipped: 2, waiting: 1, passed: 5, blocked: 1 })],
  ...{ holds: [], held: 0, quiet: 0, moreHolds: [], waitingBehindHolds: 0 },
} as unknown as ProgressView;
const open = (view: ProgressView = VIEW, address = '/progress') =>
  openScreen(<ProgressTable view={view} rows="process" columns="team" rowsName="Process" />, { address }).show();

describe('the progress table', () => {
  it('counts in each cell what is run of what is to run; what is left out is not to run', () => {
    open();
    expect(screen.getAllByRole('link').map(({ textContent }) => textContent)).toEqual(['4/6', '0/1', '5/6', '4/6', '5/7']);
  });

  it('adds up, column by column: the last row is the sum of those above it, counted another way', () => {
    open();
    const totals = within(screen.getAllByRole('row').at(-1) as HTMLElement)
      .getAllByRole('link')
      .map(({ textContent }) => textContent);
    const expected = [0, 1].map((column) => {
      const all = CELLS.map((row) => row[column] ?? NO_COUNTS);
      const sum = (pick: (own: Counts) => number) => all.reduce((total, own) => total + pick(own), 0);
      const due = sum((own) => Object.values(own).reduce((total, count) => total + count, 0) - own.skipped);
      return `${sum((own) => own.passed + own.failed)}/${due}`;
    });
    expect(totals).toEqual(expected);
  });

  it('opens what each number counts, with nobody and nothing as a filter of their own, and the strip’s scope', () => {
    open(VIEW, '/progress?scope=NS');
    const query = (index: number) =>
      Object.fromEntries(new URL((screen.getAllByRole('link')[index] as HTMLAnchorElement).href).searchParams);
    expect(query(0)).toEqual({ scope: 'NS', node: 'NS-1', team: 'team-b' });
    expect(query(2)).toEqual({ scope: 'NS', node: '-', team: '-' });
    expect(query(3)).toEqual({ scope: 'NS', team: 'team-b' });
  });

  it('names a group once, and draws nothing for an empty cell', () => {
    open();
    expect(screen.getAllByText('New supply')).toHaveLength(1);
    expect(screen.getAllByText('–')).toHaveLength(1);
  });

  it('says so when there are no turns', () => {
    open({ ...VIEW, rows: toAxis([]) });
    expect(screen.getByText('No turns here')).toBeTruthy();
  });

  it('comes in pages: says which rows and columns these are of how many, and leads on', async () => {
    const entries = Array.from({ length: 100 }, (_, row) => ({ key: `S-${row}`, name: `Scenario ${row}`, group: '' }));
    const view = { ...VIEW, rows: { from: 100, size: 2_021, entries }, cells: [], columnTotals: [] } as unknown as ProgressView;
    const { user, show } = openScreen(<ProgressTable view={view} rows="scenario" columns="team" rowsName="Scenario" />, {
      address: '/progress?fromRow=100',
    });
    show();
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
  const show = (holds: HoldView[], waitingBehindHolds: number, more: Partial<ProgressView> = {}) =>
    openScreen(<HoldList view={{ ...VIEW, holds, held: holds.length, waitingBehindHolds, ...more } as ProgressView} />);

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
