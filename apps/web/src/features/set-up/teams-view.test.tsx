import type { SetUp } from '@kindred-baton/contracts/programmes/programme';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { openScreen, Refusal } from '../../../test-support/open-screen.tsx';
import { TeamsView } from './teams-view.tsx';

type Team = SetUp['teams'][number];
const TEAM: Team = {
  ...{ id: 'team-b' as Team['id'], name: 'Billing', colour: '#123456', workingDays: [1, 2, 3], hoursPerDay: 4 },
  ...{ holidays: ['2000-01-01', '2099-12-25'], holidayRegion: 'GB', people: 3, uses: 7 },
};

function open(teams: Team[] = [TEAM]) {
  const opened = openScreen(<TeamsView setUp={{ teams } as unknown as SetUp} />);
  opened.server.on('saveTeam', () => ({ id: 'team-b' as Team['id'] }));
  opened.server.on('addTeam', () => ({ done: true }) as never);
  opened.server.on('removeTeam', () => ({ done: true }));
  opened.show();
  return opened;
}
const dialog = () => screen.getByRole('dialog');
const isClosed = () => waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());

describe('teams', () => {
  it('are listed with their days, hours and the holidays that are still to come', () => {
    open();
    const cells = within(screen.getAllByRole('row')[1] as HTMLElement).getAllByRole('cell');
    expect(cells.map(({ textContent }) => textContent)).toEqual(['3', 'Mon Tue Wed', '4', 'Fri 25 Dec GB', '7']);
  });

  it('are changed in one dialog: name, hours, days and holidays go out together', async () => {
    const { user, server } = open();
    await user.click(screen.getByRole('button', { name: 'Billing' }));
    await screen.findByRole('dialog');
    const hours = screen.getByLabelText('Hours a day');
    await user.clear(hours);
    await user.type(hours, '2.5');
    await user.click(screen.getByRole('checkbox', { name: 'Mon' }));
    await user.click(screen.getByRole('checkbox', { name: 'Sat' }));
    await user.click(screen.getByRole('button', { name: /^Remove Sat 1 Jan/ }));
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    await isClosed();
    expect(server.calls.at(-1)).toMatchObject({
      ...{ name: 'saveTeam', params: { id: 'team-b' } },
      input: { name: 'Billing', hoursPerDay: 2.5, workingDays: [2, 3, 6], holidays: ['2099-12-25'], holidayRegion: 'GB' },
    });
  });

  it('take the public holidays of their region beside their own, each once; an unknown region is told', async () => {
    const { user, server } = open();
    server.on('listHolidays', ({ input }) => {
      if (input['region'] !== 'GB') throw new Refusal('invalid', 'There is no region XX.');
      return { holidays: ['2099-12-25', '2099-12-26'].map((day) => ({ day, name: `Day ${day.slice(-2)}` })) } as never;
    });
    await user.click(screen.getByRole('button', { name: 'Billing' }));
    await screen.findByRole('dialog');
    await user.click(screen.getByRole('button', { name: 'Take its public holidays' }));
    await within(dialog()).findByText(/Day 26/);
    expect(within(dialog()).getByText('3 days on which this team does not work.')).toBeTruthy();
    await user.clear(screen.getByLabelText('Country or region'));
    await user.type(screen.getByLabelText('Country or region'), 'xx');
    await user.click(screen.getByRole('button', { name: 'Take its public holidays' }));
    expect((await within(dialog()).findByRole('alert')).textContent).toBe('There is no region XX.');
  });

  it('that are refused stay in the dialog, with what was typed; days have no field of their own, and are told all the same', async () => {
    const { user, server } = open([]);
    server.on('addTeam', () => {
      const problems = [
        { path: 'name', message: 'There is a team of that name.' },
        { path: 'workingDays', message: 'A team works on one day at least.' },
        { path: 'holidays.3', message: 'That is no day.' },
      ];
      throw new Refusal('invalid', 'It cannot be kept.', { problems });
    });
    await user.click(screen.getByRole('button', { name: 'Add a team' }));
    await screen.findByRole('dialog');
    await user.type(screen.getByLabelText('Name'), 'Billing');
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    expect(await screen.findByRole('textbox', { name: 'Name', description: 'There is a team of that name.' })).toHaveProperty(
      'value',
      'Billing',
    );
    expect(within(dialog()).getByText('A team works on one day at least.')).toBeTruthy();
    expect(within(dialog()).getByRole('alert').textContent).toBe('holidays.3: That is no day.');
  });

  it('are taken away, which is told; one in use stays', async () => {
    const { user, server } = open();
    server.on('removeTeam', () => {
      throw new Refusal('conflict', 'Billing has 7 tests; give them to another team first.');
    });
    await user.click(screen.getByRole('button', { name: 'Billing' }));
    await screen.findByRole('dialog');
    await user.click(screen.getByRole('button', { name: 'Take away' }));
    await screen.findByText('Billing has 7 tests; give them to another team first.');
    expect(dialog()).toBeTruthy();
    server.on('removeTeam', () => ({ done: true }));
    await user.click(within(dialog()).getByRole('button', { name: 'Take away' }));
    await isClosed();
    expect(screen.getByText('Billing is taken away.')).toBeTruthy();
  });
});
