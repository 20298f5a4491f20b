import type { TeamLine, TeamProgress } from '@kindred-baton/contracts/progress/teams';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { openScreen } from '../../../test-support/open-screen.tsx';
import { TeamsView } from './teams-view.tsx';

const line = (name: string, more: Partial<TeamLine> = {}): TeamLine => ({
  ...{ key: name, name, counts: { ...NO_COUNTS, passed: 6, failed: 2, blocked: 1, held: 3, ready: 4 } },
  ...{ late: 2, keeps: 5, tried: 8, planned: 80, spent: 82 },
  ...more,
});
const VIEW: TeamProgress = {
  cycle: { code: 'ACC-2', name: 'Acceptance 2', state: 'open', startsOn: '2026-11-20', endsOn: '2026-12-10' },
  ...{ each: 'team', mayNameTesters: false },
  cycles: [{ code: 'ACC-2', name: 'Acceptance 2' }],
  teams: [
    line('Billing', { keeps: 9, spent: 120 }),
    line('Stores'),
    line('No team', { key: '-', keeps: 0, tried: 0, planned: 0, spent: 0 }),
  ],
};

const open = (view = VIEW, address = '/brindlemere/progress?view=teams&scope=NS') =>
  openScreen(<TeamsView initial={view} initialAddress={address} />, { address }).show();
const rowOf = (name: string) => screen.getByRole('rowheader', { name: new RegExp(`^${name}`) }).closest('tr') as HTMLElement;
const cellsOf = (name: string) => [...rowOf(name).querySelectorAll('td')].map(({ textContent }) => textContent);

describe('teams side by side', () => {
  it('say who keeps most waiting, and who takes longer than planned', () => {
    open();
    expect(screen.getByText(/wait for/).textContent).toBe('9 turns wait for Billing; Billing takes over a tenth longer than planned');
  });

  it('have their turns, what is late and held, and minutes a turn; what nobody tried has none', () => {
    open();
    expect(cellsOf('Billing')).toEqual(['16', '850%', '675%', '3', '7', '2', '3', '9', '10 min', '15 min']);
    expect(cellsOf('No team').slice(-3)).toEqual(['–', '–', '–']);
    expect(cellsOf('All')).toEqual(['48', '2450%', '1875%', '9', '21', '6', '9', '', '10 min', '13 min']);
  });

  it('open what each number counts, in the scope of the strip', () => {
    open();
    const links = within(rowOf('No team')).getAllByRole<HTMLAnchorElement>('link');
    expect(links.map(({ href }) => Object.fromEntries(new URL(href).searchParams))).toEqual(
      [{}, { status: 'passed,failed' }, { status: 'passed' }, { status: 'failed,blocked' }, { status: 'waiting,ready,under way,held' }]
        .concat([{ late: 'yes' } as never, { status: 'held' }])
        .map((own) => ({ scope: 'NS', team: '-', ...own })),
    );
    const keeps = within(rowOf('Billing')).getByRole<HTMLAnchorElement>('link', { name: '9' });
    expect(Object.fromEntries(new URL(keeps.href).searchParams)).toEqual({ cycle: 'ACC-2', holdsOf: 'Billing', scope: 'NS' });
  });

  it('say nothing of their pace where nobody has tried a turn', () => {
    open({ ...VIEW, teams: VIEW.teams.map((team) => ({ ...team, tried: 0, planned: 0, spent: 0 })) });
    expect(screen.getByText(/wait for/).textContent).toBe('9 turns wait for Billing; nobody has tried a turn to the end yet');
  });

  it('are told apart from a cycle in which no team has turns', () => {
    open({ ...VIEW, teams: [] });
    expect(screen.getByText('No team has turns here')).toBeTruthy();
  });
});
