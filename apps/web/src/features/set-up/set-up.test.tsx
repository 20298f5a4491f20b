import type { SetUp } from '@kindred-baton/contracts/programmes/programme';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { openScreen, Refusal } from '../../../test-support/open-screen.tsx';
import { ApplicationsView } from './applications-view.tsx';
import { PersonDialog } from './person-dialog.tsx';

const SET_UP = {
  applications: [
    { id: 'app-c', name: 'Customer', uses: 4 },
    { id: 'app-l', name: 'Ledger', uses: 0 },
  ],
  environments: [{ id: 'env-a', name: 'Acceptance', uses: 1, addresses: { 'app-c': 'https://customer.example/a' } }],
  teams: [
    { id: 'team-b', name: 'Billing', hoursPerDay: 4 },
    { id: 'team-s', name: 'Stores', hoursPerDay: 2 },
  ],
  people: [
    { id: 'p-1', name: 'Ada Flint', roles: ['tester'], teams: [{ id: 'team-b', hoursPerDay: null }], absences: [], leftAt: null, turns: 2 },
    { id: 'p-2', name: 'Tom Reed', roles: ['tester'], teams: [], absences: [], leftAt: null, turns: 0 },
    { id: 'p-3', name: 'Gone Girl', roles: ['tester'], teams: [], absences: [], leftAt: '2026-01-01T00:00:00.000Z', turns: 0 },
  ],
} as unknown as SetUp;

describe('applications and environments', () => {
  const open = () => {
    const opened = openScreen(<ApplicationsView setUp={SET_UP} />);
    opened.show();
    return opened;
  };

  it('stand as a table of where each is opened', () => {
    open();
    expect(screen.getByRole('link', { name: 'customer.example/a' }).getAttribute('href')).toBe('https://customer.example/a');
    expect(screen.getAllByText('–')).toHaveLength(1);
  });

  it('an environment is kept with an address for each application, and a wrong one stands at its field', async () => {
    const { user, server } = open();
    server.on('saveEnvironment', () => {
      throw new Refusal('invalid', 'x', { problems: [{ path: 'addresses.app-l', message: 'That is no address.' }] });
    });
    await user.click(screen.getByRole('button', { name: 'Acceptance' }));
    const dialog = within(await screen.findByRole('dialog', { name: 'Acceptance' }));
    await user.type(dialog.getByLabelText('Address of Ledger'), 'https://x');
    await user.click(dialog.getByRole('button', { name: 'Keep' }));
    expect(await dialog.findByRole('textbox', { name: 'Address of Ledger', description: 'That is no address.' })).toBeTruthy();
    expect(server.calls.find(({ name }) => name === 'saveEnvironment')).toMatchObject({
      params: { id: 'env-a' },
      input: { name: 'Acceptance', addresses: { 'app-c': 'https://customer.example/a', 'app-l': 'https://x' } },
    });
  });

  it('an application is added, renamed and taken away; one in use stays, and says so', async () => {
    const { user, server } = open();
    server.on('addApplication', () => ({ id: 'app-n' as never }));
    await user.click(screen.getByRole('button', { name: 'Add an application' }));
    await user.type(within(await screen.findByRole('dialog')).getByLabelText('Name'), 'Works');
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(server.calls.find(({ name }) => name === 'addApplication')).toMatchObject({ input: { name: 'Works' } });
    server.on('removeApplication', () => {
      throw new Refusal('conflict', 'Customer has 4 tests.');
    });
    await user.click(screen.getByRole('button', { name: 'Customer' }));
    await user.click(await screen.findByRole('button', { name: 'Take away' }));
    expect(await screen.findByText('Customer has 4 tests.')).toBeTruthy();
    expect(screen.getByRole('dialog', { name: 'Customer' })).toBeTruthy();
  });
});

describe('a person', () => {
  const open = async () => {
    let closed = 0;
    const person = SET_UP.people[0];
    if (!person) throw new Error('There is a person.');
    const opened = openScreen(<PersonDialog person={person} setUp={SET_UP} onClose={() => (closed += 1)} />);
    opened.server.on('savePerson', () => ({ done: true }) as never);
    opened.show();
    return { ...opened, dialog: within(await screen.findByRole('dialog', { name: 'Ada Flint' })), closed: () => closed };
  };

  it('has teams with hours of her own, or the team’s where nothing is said', async () => {
    const { user, dialog, server, closed } = await open();
    expect(dialog.getByLabelText('Hours a day in Billing')).toHaveProperty('placeholder', '4 h');
    await user.type(dialog.getByLabelText('Hours a day in Billing'), '1.5');
    await user.click(dialog.getByRole('checkbox', { name: 'Stores' }));
    await user.click(dialog.getByRole('button', { name: 'Keep' }));
    await waitFor(() => expect(closed()).toBe(1));
    expect(server.calls[0]?.input).toMatchObject({
      teams: [
        { id: 'team-b', hoursPerDay: 1.5 },
        { id: 'team-s', hoursPerDay: null },
      ],
    });
  });

  it('is away on days, with a reason; days that do not follow are refused beside them', async () => {
    const { user, dialog, server } = await open();
    server.on('savePerson', () => {
      throw new Refusal('invalid', 'x', { problems: [{ path: 'absences.0.lastDay', message: 'The last day is before the first.' }] });
    });
    await user.click(dialog.getByRole('button', { name: 'Add days away' }));
    await user.type(dialog.getByLabelText('Away from, 1'), '2026-12-24');
    await user.type(dialog.getByLabelText('Away until, 1'), '2026-12-20');
    await user.type(dialog.getByLabelText('Why away, 1'), 'Holiday');
    await user.click(dialog.getByRole('button', { name: 'Keep' }));
    expect(await dialog.findByText('The last day is before the first.')).toBeTruthy();
    expect(server.calls[0]?.input).toMatchObject({ absences: [{ firstDay: '2026-12-24', lastDay: '2026-12-20', note: 'Holiday' }] });
    await user.click(dialog.getByRole('button', { name: 'Remove absence 1' }));
    expect(dialog.queryByLabelText('Away from, 1')).toBeNull();
  });

  it('leaves: what is left goes to somebody who is still there, or to nobody yet', async () => {
    const { user, dialog, server, closed } = await open();
    server.on('leaveProgramme', () => ({ done: true }) as never);
    await user.click(dialog.getByText('Ada Flint leaves the programme'));
    const choices = within(dialog.getByLabelText('What is left goes to')).getAllByRole('option');
    expect(choices.map(({ textContent }) => textContent)).toEqual(['nobody yet: the lead gives it out', 'Tom Reed']);
    await user.selectOptions(dialog.getByLabelText('What is left goes to'), 'Tom Reed');
    await user.click(dialog.getByRole('button', { name: 'Ada Flint leaves' }));
    await screen.findByText('Ada Flint has left.');
    expect([server.calls[0]?.input, closed()]).toEqual([{ handTo: 'p-2' }, 1]);
  });
});
