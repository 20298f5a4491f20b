import { act, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { openScreen, Refusal } from '../../test-support/open-screen.tsx';
import type { Changes } from './use-changes.ts';
import { useChanges } from './use-changes.ts';
import { useRead } from './use-read.ts';

function open() {
  let changes: Changes | undefined;
  const opened = openScreen(<Page />);
  opened.server.on('getProfile', () => ({ name: `Asked ${opened.server.count('getProfile')}` }) as never);
  opened.server.on('listHolidays', () => [] as never);
  function Page() {
    changes = useChanges();
    const { data } = useRead('getProfile', {});
    useRead('listHolidays', {} as never);
    return <p>{data?.name}</p>;
  }
  opened.show();
  return { ...opened, changes: () => changes as Changes };
}
const TEAM = { input: { name: 'Billing' } } as never;

describe('a change', () => {
  it('asks again for what it makes stale, and for nothing else, and gives its answer', async () => {
    const { server, changes } = open();
    await screen.findByText('Asked 1');
    server.on('addTeam', ({ input }) => ({ made: input['name'] }) as never);
    let answer: unknown;
    await act(async () => (answer = await changes().change('addTeam', TEAM)));
    expect(answer).toEqual({ made: 'Billing' });
    await screen.findByText('Asked 2');
    expect(server.count('listHolidays')).toBe(1);
  });

  it('that is refused rejects for a form, and asks nothing again', async () => {
    const { server, changes } = open();
    await screen.findByText('Asked 1');
    server.on('addTeam', () => {
      throw new Refusal('conflict', 'There is a team Billing already.', { problems: [{ path: 'name', message: 'It is taken.' }] });
    });
    await expect(changes().change('addTeam', TEAM)).rejects.toMatchObject({ code: 'conflict', problems: [{ path: 'name' }] });
    expect(server.count('getProfile')).toBe(1);
  });

  it('of a button says what was done, in words made of the answer; without words it says nothing', async () => {
    const { server, changes } = open();
    server.on('addTeam', ({ input }) => ({ made: input['name'] }) as never);
    await act(async () => void (await changes().act('addTeam', TEAM)));
    expect(screen.queryByRole('button', { name: 'Close this message' })).toBeNull();
    await act(async () => void (await changes().act('addTeam', TEAM, (answer) => `Team ${(answer as { made?: string }).made} is there.`)));
    expect(screen.getByText('Team Billing is there.')).toBeTruthy();
  });

  it('of a button that fails is told and gives undefined, so that what follows can wait', async () => {
    const { server, changes } = open();
    server.goAway();
    let answer: unknown = 'nothing yet';
    await act(async () => (answer = await changes().act('addTeam', TEAM, 'Done.')));
    expect(answer).toBeUndefined();
    await waitFor(() => expect(screen.getByText(/The server does not answer/)).toBeTruthy());
    expect(screen.queryByText('Done.')).toBeNull();
  });
});
