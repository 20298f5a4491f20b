import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { openScreen } from '../../../test-support/open-screen.tsx';
import { useRead } from '../../client/use-read.ts';
import { AMoment } from './a-moment.tsx';

function Page() {
  const profile = useRead('getProfile', {});
  return (
    <>
      <p>{profile.data?.name}</p>
      <button type="button" onClick={() => void profile.refetch()}>
        Again
      </button>
      <AMoment />
    </>
  );
}

describe('an answer that takes long', () => {
  it('is told of until it comes; what is asked again behind what is shown is not', async () => {
    const opened = openScreen(<Page />);
    let answer = (_name: string) => {};
    opened.server.on('getProfile', () => new Promise((resolve) => (answer = (name) => resolve({ name } as never))) as never);
    opened.show();
    expect(screen.queryByText(/takes a moment/)).toBeNull();
    await screen.findByText(/takes a moment/, {}, { timeout: 5_000 });
    answer('Ines');
    await screen.findByText('Ines');
    await waitFor(() => expect(screen.queryByText(/takes a moment/)).toBeNull());
    screen.getByText('Again').click();
    await new Promise((resolve) => setTimeout(resolve, 1_600));
    expect(screen.queryByText(/takes a moment/)).toBeNull();
    answer('Ines Varga');
    await screen.findByText('Ines Varga');
  });
});
