import type { FoundItem } from '@kindred-baton/contracts/find/find';
import { screen, waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { defer, openScreen, Refusal } from '../../../test-support/open-screen.tsx';
import { leaveTo } from '../../client/leave-to.ts';
import { FindBox } from './find-box.tsx';

vi.mock('../../client/leave-to.ts', () => ({ leaveTo: vi.fn() }));

const item = (code: string, kind: FoundItem['kind'] = 'test'): FoundItem => ({
  kind,
  code,
  name: `Name of ${code}`,
  context: '',
  path: `/tests/${code}`,
});

const open = () => {
  const opened = openScreen(<FindBox />);
  opened.show();
  return opened;
};

describe('Find', () => {
  beforeEach(() => vi.mocked(leaveTo).mockClear());

  it('lists what has the words, and Enter goes to the first', async () => {
    const { server, user } = open();
    server.on('findAnything', () => ({ found: [item('BIL-01'), item('BIL-02')] }));
    await user.type(screen.getByRole('combobox'), 'price');
    expect(await screen.findAllByRole('option')).toHaveLength(2);
    await user.keyboard('{Enter}');
    expect(leaveTo).toHaveBeenCalledExactlyOnceWith('/brindlemere/tests/BIL-01');
  });

  it('arrows walk the list, and stay at its ends', async () => {
    const { server, user } = open();
    server.on('findAnything', () => ({ found: ['A', 'B', 'C'].map((code) => item(code)) }));
    await user.type(screen.getByRole('combobox'), 'x');
    await screen.findAllByRole('option');
    await user.keyboard('{ArrowDown}{ArrowDown}{ArrowDown}{ArrowUp}');
    expect(screen.getByRole('option', { selected: true }).textContent).toContain('Name of B');
    await user.keyboard('{Enter}');
    expect(leaveTo).toHaveBeenCalledExactlyOnceWith('/brindlemere/tests/B');
  });

  it('Enter before the answer is there waits for it, and follows no earlier list', async () => {
    const { server, user } = open();
    const late = defer<{ found: FoundItem[] }>();
    server.on('findAnything', ({ input: { q } }) => (q === 'B' ? { found: [item('NS-4.2', 'node')] } : late.promise));
    const box = screen.getByRole('combobox');
    await user.type(box, 'B');
    await screen.findByText('Name of NS-4.2');
    await user.type(box, 'IL-01{Enter}');
    expect(screen.getByRole('listbox').getAttribute('aria-busy')).toBe('true');
    expect(leaveTo).not.toHaveBeenCalled();
    late.resolve({ found: [item('BIL-01')] });
    await waitFor(() => expect(leaveTo).toHaveBeenCalledExactlyOnceWith('/brindlemere/tests/BIL-01'));
  });

  it('who types on after Enter has changed her mind', async () => {
    const { server, user } = open();
    const late = defer<{ found: FoundItem[] }>();
    server.on('findAnything', ({ input: { q } }) => (q === 'ab' ? { found: [item('AB')] } : late.promise));
    await user.type(screen.getByRole('combobox'), 'a{Enter}b');
    await screen.findByText('Name of AB');
    late.resolve({ found: [item('A')] });
    await new Promise((done) => setTimeout(done, 20));
    expect(leaveTo).not.toHaveBeenCalled();
  });

  it('says that nothing was found only when it was looked for, and that it could not be looked for when so', async () => {
    const { server, user } = open();
    const late = defer<{ found: FoundItem[] }>();
    server.on('findAnything', () => late.promise);
    const box = screen.getByRole('combobox');
    await user.type(box, 'q');
    expect(screen.getByText('Looking …')).toBeTruthy();
    late.resolve({ found: [] });
    await screen.findByText('Nothing has that code or those words.');
    await user.keyboard('{Enter}');
    server.on('findAnything', () => {
      throw new Refusal('broken', 'Something went wrong on the server.');
    });
    await user.type(box, 'r');
    await screen.findByText('It could not be looked for. Type on to try again.');
    expect(leaveTo).not.toHaveBeenCalled();
  });
});
