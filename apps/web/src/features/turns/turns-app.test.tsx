import type { TurnsHome } from '@kindred-baton/contracts/turns/turn';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { makeGuide, makeTurn } from '../../../test-support/fixtures.ts';
import { openScreen } from '../../../test-support/open-screen.tsx';
import { TurnCardView } from './turn-card.tsx';
import { TurnsHomeView } from './turns-app.tsx';

const NOTHING: TurnsHome = {
  ...{ withYou: [], stopped: [], leftByRunners: [], onItsWay: [], moreOnItsWay: 0, since: null },
  passedOn: { passed: 0, failed: 0, blocked: 0, skipped: 0, recent: [] },
  mine: { turns: 0, done: 0, doneThisWeek: 0, minutesDone: 0, minutesLeft: 0, found: 0 },
};

function open(home: Partial<TurnsHome> = {}, address = '/turns') {
  const view = { ...NOTHING, ...home };
  const opened = openScreen(<TurnsHomeView initial={view} />, { address });
  opened.server.on('getTurnsHome', () => view);
  opened.server.on('getGuide', () => makeGuide());
  opened.show();
  return opened;
}
const part = (name: string) => screen.getByRole('region', { name });

describe('a tester’s home', () => {
  it('says in its first line how many turns are with her, and who has what she waits for', () => {
    const waiting = makeTurn({
      ...{ id: 'turn-2' as never, title: 'Bill it', state: 'waiting', status: 'waiting' },
      arrivals: [{ name: 'Meter no.', value: null, from: { title: 'Fit the meter', leg: 7, person: 'Tom Reed' } }],
      holder: { id: 'turn-3' as never, nudges: 2, title: 'Fit the meter', person: 'Tom Reed', status: 'under way', dueOn: null },
    });
    open({ withYou: [makeTurn()], onItsWay: [waiting], moreOnItsWay: 4 });
    expect(screen.getByRole('heading', { level: 1 }).textContent).toMatch(/^Good \w+, Lea\. One turn is with you\.$/);
    expect(within(part('On its way to you')).getByText(/under way with Tom Reed/)).toBeTruthy();
    expect(within(part('On its way to you')).getByText('and 4 more turns further off')).toBeTruthy();
    expect(within(part('On its way to you')).getByText(/on its way/)).toBeTruthy();
  });

  it('shows what runners have left to her lane apart from what is hers', () => {
    const left = makeTurn({ id: 'turn-9' as never, title: 'Send a crew', state: 'done', status: 'blocked', assignee: 'Office' });
    open({ leftByRunners: [left] });
    expect(within(part('Left by runners, for your lane')).getByText('Send a crew')).toBeTruthy();
    expect(screen.getByRole('heading', { level: 1 }).textContent).not.toContain('stopped');
  });

  it('says what happened since she was here, and that it was nothing where it was nothing', () => {
    const at = new Date(Date.now() - 3_600_000).toISOString();
    const { show } = open({ since: { at, came: 2, retests: 1, nudges: 3, takenAway: 0, defectsFixed: 1 } });
    expect(screen.getByText(/Since you were here/).textContent).toContain(
      '2 turns came to you, 1 turn came back to be tried again, somebody asked for a baton 3 times, 1 defect of yours moved on.',
    );
    void show;
  });

  it('tells that she has looked when she leaves, and not before', () => {
    const beacon = vi.fn(() => true);
    vi.stubGlobal('navigator', Object.assign(navigator, { sendBeacon: beacon }));
    open({ since: { at: '2026-11-26T10:00:00.000Z', came: 0, retests: 0, nudges: 0, takenAway: 0, defectsFixed: 0 } });
    expect(screen.getByText(/Since you were here/).textContent).toContain('nothing new');
    expect(beacon).not.toHaveBeenCalled();
    dispatchEvent(new Event('pagehide'));
    expect(beacon).toHaveBeenCalledExactlyOnceWith('/api/brindlemere/turns/seen');
  });

  it('counts what she passed on by how it ended, with her own numbers', () => {
    open({
      passedOn: {
        passed: 3,
        failed: 1,
        blocked: 0,
        skipped: 2,
        recent: [makeTurn({ state: 'done', status: 'passed', changedAt: new Date().toISOString() })],
      },
      mine: { turns: 12, done: 6, doneThisWeek: 2, minutesDone: 95, minutesLeft: 60, found: 1 },
    });
    expect(within(part('Passed on')).getByText('6 turns · 3 passed, 1 failed, 2 left out')).toBeTruthy();
    expect(within(part('Passed on')).getByText('Show the last 1')).toBeTruthy();
    expect(part('Your numbers').textContent).toContain('6 of 12 turns tried, 2 this week · 1 h 35 of work done, 1 h left · 1 defect found');
  });

  it('opens a turn beside the list and keeps it in the address, so that it can be sent to others', async () => {
    const { user } = open({ withYou: [makeTurn()] });
    await user.click(screen.getByRole('button', { name: 'Price the quote' }));
    expect(location.search).toBe('?turn=turn-1');
    expect(await screen.findByRole('region', { name: 'Guide' })).toBeTruthy();
    await user.click(await screen.findByRole('button', { name: 'Close the guide' }));
    expect(location.search).toBe('');
  });

  it('with nothing says what will come, or that nothing will', () => {
    open();
    expect(screen.getByText('Nothing is with you')).toBeTruthy();
    expect(screen.getByText('When a turn is given to you, it stands here, with all that it needs.')).toBeTruthy();
    expect(screen.getByText('Nothing yet in the cycles that are open.')).toBeTruthy();
  });
});

describe('a turn’s card', () => {
  const show = (more: Parameters<typeof makeTurn>[0], rights = undefined as never) => {
    const opened = openScreen(<TurnCardView turn={makeTurn(more)} onOpen={() => {}} />, rights ? { rights } : {});
    opened.show();
    return opened;
  };

  it('has what came, from whom; a value of the data row is no baton', () => {
    show({
      arrivals: [
        { name: 'Survey no.', value: 'SV-1', from: { title: 'Survey', leg: 2, person: 'Tom Reed' } },
        { name: 'Street', value: 'Quay', from: null },
      ],
      heldBy: 'TQ-203, The price is wrong',
    });
    expect(screen.getByText('SV-1')).toBeTruthy();
    expect(screen.queryByText('Quay')).toBeNull();
    expect(screen.getByText('held: TQ-203, The price is wrong')).toBeTruthy();
  });

  it('is late when its day is past and it could be begun, not while it waits', () => {
    show({ dueOn: '2020-01-06' });
    expect(screen.getByText(/days ago/).className).toContain('text-failed');
    show({ dueOn: '2020-01-06', state: 'waiting', status: 'waiting' });
    expect(screen.getAllByText(/days ago/)[1]?.className).not.toContain('text-failed');
  });

  it('asks whoever has the baton for it, once a press, and tells whom', async () => {
    const holder = { id: 'turn-3' as never, nudges: 2, title: 'Fit the meter', person: 'Tom Reed', status: 'ready' as const, dueOn: null };
    const { user, server } = show({ state: 'waiting', status: 'waiting', holder });
    server.on('nudge', () => ({ count: 3, to: 'Tom Reed' }));
    await user.click(screen.getByRole('button', { name: 'Nudge for Fit the meter' }));
    await screen.findByText('Tom Reed gets a friendly word.');
    await waitFor(() => expect(server.calls.map(({ name, params }) => [name, params['turn']])).toEqual([['nudge', 'turn-3']]));
  });

  it('keeps in sight what is stopped, with why: the defect that must be fixed first as a link, or the words that were said', async () => {
    const defects = [{ code: 'TQ-203', title: 'The price is wrong' }];
    const stopped = [
      makeTurn({ id: 'turn-8' as never, title: 'Bill it', state: 'done', status: 'failed', stoppedBy: { words: 'No', defects } }),
      makeTurn({
        ...{ id: 'turn-9' as never, title: 'Read the meter', state: 'done', status: 'blocked' },
        stoppedBy: { words: 'The meter is not there.', defects: [] },
      }),
    ];
    open({ stopped });
    expect(await screen.findByRole('heading', { name: /No turns are with you, 2 are stopped/ })).toBeTruthy();
    const part = within(screen.getByRole('region', { name: 'Stopped' }));
    expect(part.getByRole('link', { name: 'TQ-203, The price is wrong' }).getAttribute('href')).toBe('/brindlemere/defects/TQ-203');
    expect(part.getByText('blocked: “The meter is not there.”')).toBeTruthy();
  });
});
