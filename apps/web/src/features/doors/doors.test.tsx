import type { DoorView } from '@kindred-baton/contracts/doors/door';
import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { openScreen, Refusal } from '../../../test-support/open-screen.tsx';
import { DoorsCard } from './doors-card.tsx';

const DOOR = {
  ...{ id: 'door-1', name: 'Ledger database', kind: 'database', environmentId: 'env-a', applicationId: 'app-l' },
  ...{ address: 'postgresql://db/ledger', signIn: 'none', userName: 'reader', hasSecret: true },
} as unknown as DoorView;
const PLACES = {
  applications: [{ id: 'app-l', name: 'Ledger', uses: 0 }],
  environments: [{ id: 'env-a', name: 'Acceptance', uses: 1, addresses: {} }],
} as never as Parameters<typeof DoorsCard>[0];

function open() {
  const opened = openScreen(<DoorsCard {...PLACES} />);
  opened.server.on('listDoors', () => ({ doors: [DOOR] }));
  opened.show();
  return opened;
}

describe('doors', () => {
  it('say where they are and what opens them, and are tried', async () => {
    const { user, server } = open();
    expect(await screen.findByText('reader with a password')).toBeTruthy();
    server.on('tryDoor', () => ({ isAnswered: false, text: '“Ledger database” refuses the user or the password of the door.', looks: [] }));
    await user.click(screen.getByRole('button', { name: 'Try Ledger database in Acceptance' }));
    expect(await screen.findByText(/refuses the user or the password/)).toBeTruthy();
  });

  it('are kept with a secret only where one is typed; what is wrong stands at its field', async () => {
    const { user, server } = open();
    server.on('saveDoor', () => {
      throw new Refusal('invalid', 'x', { problems: [{ path: 'address', message: 'Write it like postgresql://host:5432/database.' }] });
    });
    await user.click(await screen.findByRole('button', { name: 'Ledger database' }));
    const dialog = within(await screen.findByRole('dialog', { name: 'Ledger database' }));
    await user.click(dialog.getByRole('button', { name: 'Keep' }));
    expect(await dialog.findByText('Write it like postgresql://host:5432/database.')).toBeTruthy();
    const sent = server.calls.find(({ name }) => name === 'saveDoor')?.input;
    expect([sent?.['userName'], 'secret' in (sent ?? {})]).toEqual(['reader', false]);
    await user.selectOptions(dialog.getByLabelText('Kind'), 'interface');
    await user.selectOptions(dialog.getByLabelText('Opened by'), 'header');
    expect(dialog.getByLabelText('Field of the header')).toBeTruthy();
  });
});
