import { act, screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { openScreen } from '../../../test-support/open-screen.tsx';
import { useRead } from '../../client/use-read.ts';
import { useLive } from './use-live.ts';

/** What the browser has; the test says what comes. */
class FakeSource {
  static open: FakeSource[] = [];
  onmessage: ((event: { data: string }) => void) | null = null;
  onerror: (() => void) | null = null;
  onopen: (() => void) | null = null;
  readonly url: string;
  constructor(url: string) {
    this.url = url;
    FakeSource.open.push(this);
  }
  close() {
    FakeSource.open = FakeSource.open.filter((source) => source !== this);
  }
}

function open() {
  FakeSource.open = [];
  const opened = openScreen(<Page />);
  vi.stubGlobal('EventSource', FakeSource);
  opened.server.on('getProfile', () => ({ name: `Asked ${opened.server.count('getProfile')}` }) as never);
  opened.server.on('listMails', () => ({ mails: [] }) as never);
  function Page() {
    useLive('/api/brindlemere', opened.client);
    const profile = useRead('getProfile', {});
    useRead('listMails', {});
    return <p>{profile.data?.name}</p>;
  }
  opened.show();
  return opened;
}

const say = (topic: string) => FakeSource.open[0]?.onmessage?.({ data: topic });
const hide = (state: 'hidden' | 'visible') => {
  Object.defineProperty(document, 'visibilityState', { value: state, configurable: true });
  act(() => void document.dispatchEvent(new Event('visibilitychange')));
};

describe('a page that is looked at', () => {
  it('asks again for what others changed, and for nothing else', async () => {
    const { server } = open();
    await screen.findByText('Asked 1');
    const mails = server.count('listMails');
    say('defects');
    await new Promise((done) => setTimeout(done, 60));
    expect(server.count('getProfile')).toBe(1);
    say('programme');
    await screen.findByText('Asked 2');
    expect(server.count('listMails')).toBeGreaterThanOrEqual(mails);
  });

  it('gathers what follows closely into one question', async () => {
    const { server } = open();
    await screen.findByText('Asked 1');
    say('programme');
    await screen.findByText('Asked 2');
    for (let count = 0; count < 5; count += 1) say('programme');
    await screen.findByText('Asked 3');
    await new Promise((done) => setTimeout(done, 60));
    expect(server.count('getProfile')).toBe(3);
  });

  it('lets an answer that is under way come, however much changes meanwhile, and asks once for all of that', async () => {
    const { server } = open();
    await screen.findByText('Asked 1');
    let answer: (value: never) => void = () => {};
    server.on('getProfile', () => new Promise<never>((come) => (answer = come)));
    say('programme');
    await waitFor(() => expect(server.count('getProfile')).toBe(2));
    for (let count = 0; count < 3; count += 1) {
      say('programme');
      await new Promise((done) => setTimeout(done, 300));
    }
    expect(server.count('getProfile')).toBe(2);
    server.on('getProfile', () => ({ name: 'The newest' }) as never);
    answer({ name: 'Late, but here' } as never);
    await screen.findByText('Late, but here');
    await screen.findByText('The newest');
    expect(server.count('getProfile')).toBe(3);
  });

  it('rests in the background, and coming back asks for all that it may have missed', async () => {
    const { server } = open();
    await screen.findByText('Asked 1');
    hide('hidden');
    expect(FakeSource.open).toEqual([]);
    hide('visible');
    expect(FakeSource.open.map(({ url }) => url)).toEqual(['/api/brindlemere/events']);
    act(() => FakeSource.open[0]?.onopen?.());
    await screen.findByText('Asked 2');
    await waitFor(() => expect(server.count('listMails')).toBe(2));
  });

  it('asks for all after a break of the connection, and only once', async () => {
    const { server } = open();
    await screen.findByText('Asked 1');
    act(() => FakeSource.open[0]?.onerror?.());
    act(() => FakeSource.open[0]?.onopen?.());
    await screen.findByText('Asked 2');
    act(() => FakeSource.open[0]?.onopen?.());
    await new Promise((done) => setTimeout(done, 30));
    expect(server.count('getProfile')).toBe(2);
  });

  it('keeps one connection, and lets it go with the page', async () => {
    open();
    await screen.findByText('Asked 1');
    hide('visible');
    expect(FakeSource.open).toHaveLength(1);
    dispatchEvent(new Event('pagehide'));
    expect(FakeSource.open).toEqual([]);
    dispatchEvent(new Event('pageshow'));
    expect(FakeSource.open).toHaveLength(1);
  });
});
