import { act, screen, waitFor } from '@testing-library/react';
import { useReducer } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { makeTest, makeVersion } from '../../../test-support/fixtures.ts';
import { defer, openScreen, Refusal } from '../../../test-support/open-screen.tsx';
import { leaveTo } from '../../client/leave-to.ts';
import type { TestDetail } from '@kindred-baton/contracts/tests/test';
import { createDraft, reduceDraft } from './test-draft.ts';
import type { TestDraft } from './test-draft.ts';
import type { Saving } from './use-saving.ts';
import { useSaving } from './use-saving.ts';

vi.mock('../../client/leave-to.ts', () => ({ leaveTo: vi.fn() }));

const REVIEW = { test: { code: 'BIL-01', name: 'Price the quote' }, by: null, differences: [], scenarios: [] };
const DRAFT = makeTest({ version: makeVersion({ number: 2, state: 'draft', revision: 4 }) });

function open(test: TestDetail = DRAFT) {
  let saving: Saving | undefined;
  let draft: TestDraft | undefined;
  const opened = openScreen(<Editor />);
  function Editor() {
    const [now, dispatch] = useReducer(reduceDraft, test, createDraft);
    const editing = useSaving(test, now, dispatch);
    saving = editing;
    draft = now;
    return (
      <>
        <input aria-label="Name" value={now.name} onChange={(event) => dispatch({ kind: 'name', name: event.target.value })} />
        <output aria-label="State">{editing.refusal ?? (now.isChanged ? 'changed' : 'saved')}</output>
      </>
    );
  }
  opened.show();
  return { ...opened, saving: () => saving as Saving, draft: () => draft as TestDraft };
}
const state = () => screen.getByRole('status', { name: 'State' }).textContent;
const saves = (server: ReturnType<typeof open>['server']) =>
  server.calls.filter(({ name }) => name === 'saveTest').map(({ input }) => input);

describe('a draft', () => {
  beforeEach(() => vi.mocked(leaveTo).mockClear());

  it('saves itself once nobody types, on what it began from, and the next time on that', async () => {
    const { server, user, draft } = open();
    server.on('saveTest', () => ({ number: 2, revision: 5 + saves(server).length }));
    await user.type(screen.getByLabelText('Name'), ' now');
    expect(saves(server)).toEqual([]);
    await waitFor(() => expect(draft().isChanged).toBe(false), { timeout: 4_000 });
    expect(saves(server)).toMatchObject([{ name: 'Price the quote now', base: { number: 2, revision: 4 } }]);
    await user.type(screen.getByLabelText('Name'), '!');
    await user.keyboard('{Control>}s{/Control}');
    await waitFor(() => expect(saves(server)).toHaveLength(2));
    expect(saves(server)[1]).toMatchObject({ name: 'Price the quote now!', base: { number: 2, revision: 6 } });
  });

  it('an agreed version begins a draft by being saved by hand, which is told; it does not save itself before', async () => {
    const { server, user, saving } = open(makeTest());
    server.on('saveTest', () => ({ number: 2, revision: 1 }));
    await user.type(screen.getByLabelText('Name'), '!');
    await new Promise((done) => setTimeout(done, 1_500));
    expect(saves(server)).toEqual([]);
    expect(saving().isDraft).toBe(false);
    await act(() => saving().save());
    expect(screen.getByText('Version 2 is saved as a draft.')).toBeTruthy();
    expect(saving().isDraft).toBe(true);
  });

  it('what is typed while a save is on its way is not taken for saved', async () => {
    const { server, user, draft } = open();
    const answer = defer<{ number: number; revision: number }>();
    server.on('saveTest', () => answer.promise);
    await user.type(screen.getByLabelText('Name'), '!');
    await user.keyboard('{Control>}s{/Control}');
    await waitFor(() => expect(saves(server)).toHaveLength(1));
    await user.type(screen.getByLabelText('Name'), '?');
    await user.keyboard('{Control>}s{/Control}');
    expect(saves(server)).toHaveLength(1);
    await act(async () => answer.resolve({ number: 2, revision: 5 }));
    expect(draft().isChanged).toBe(true);
    await waitFor(() => expect(saves(server)[1]).toMatchObject({ name: 'Price the quote!?', base: { number: 2, revision: 5 } }), {
      timeout: 4_000,
    });
  });

  it('a refusal is told and what was typed stays; the next save takes it back', async () => {
    const { server, user, saving } = open();
    server.goAway();
    await user.type(screen.getByLabelText('Name'), '!');
    await user.keyboard('{Control>}s{/Control}');
    await screen.findByText(/The server does not answer/);
    expect(screen.getByLabelText('Name')).toHaveProperty('value', 'Price the quote!');
    server.goAway(false);
    server.on('saveTest', () => {
      throw new Refusal('invalid', 'minutes: Give whole minutes.', { problems: [{ path: 'minutes', message: 'Give whole minutes.' }] });
    });
    await act(() => saving().save());
    expect(saving().problems).toEqual([{ path: 'minutes', message: 'Give whole minutes.' }]);
    server.on('saveTest', () => ({ number: 2, revision: 5 }));
    await act(() => saving().save());
    expect([saving().problems, saving().refusal]).toEqual([[], null]);
  });

  it('what somebody else saved meanwhile is shown, and nothing more is saved until it is decided', async () => {
    const { server, user, saving } = open();
    const theirs = makeVersion({ number: 2, state: 'draft', revision: 7, savedBy: 'Edda Quill' });
    server.on('saveTest', () => {
      throw new Refusal('conflict', 'Edda Quill saved this test.', { details: { theirs } });
    });
    await user.type(screen.getByLabelText('Name'), '!');
    await user.keyboard('{Control>}s{/Control}');
    await waitFor(() => expect(saving().conflict).toMatchObject({ savedBy: 'Edda Quill', revision: 7 }));
    await new Promise((done) => setTimeout(done, 1_500));
    expect(saves(server)).toHaveLength(1);
    act(() => saving().forgetConflict());
    expect(saving().conflict).toBeNull();
  });

  it('is agreed by the first press, with what was typed just before and what is being saved meanwhile', async () => {
    const { server, user, saving } = open();
    const answer = defer<{ number: number; revision: number }>();
    server.on('saveTest', () => (saves(server).length === 1 ? answer.promise : { number: 2, revision: 6 }));
    server.on('getChangeReview', () => REVIEW);
    server.on('agreeTest', () => ({ number: 2 }));
    await user.type(screen.getByLabelText('Name'), '!');
    await user.keyboard('{Control>}s{/Control}');
    await user.type(screen.getByLabelText('Name'), '?');
    let isDone = false;
    act(
      () =>
        void saving()
          .agree()
          .then(() => (isDone = true)),
    );
    await act(async () => answer.resolve({ number: 2, revision: 5 }));
    await waitFor(() => expect(isDone).toBe(true));
    expect(saves(server)).toMatchObject([
      { name: 'Price the quote!', base: { revision: 4 } },
      { name: 'Price the quote!?', base: { revision: 5 } },
    ]);
    expect(server.calls.at(-1)).toMatchObject({ name: 'agreeTest', input: { number: 2, revision: 6 } });
  });

  it('that scenarios would break with asks before, and is agreed all the same if that is meant', async () => {
    const { server, saving } = open();
    const line = { code: 'NS-S1', name: 'Supply', legs: [2], brings: [], isTaken: false, verdict: 'breaks' };
    server.on('getChangeReview', () => ({ ...REVIEW, scenarios: [line, { ...line, code: 'NS-S2', verdict: 'needs a look' }] }) as never);
    server.on('agreeTest', () => ({ number: 2 }));
    await act(() => saving().agree());
    expect(saving().broken?.map(({ code }) => code)).toEqual(['NS-S1']);
    expect(server.calls.map(({ name }) => name)).not.toContain('agreeTest');
    act(() => saving().forgetBroken());
    expect(saving().broken).toBeNull();
    await act(() => saving().agree(true));
    expect(server.calls.at(-1)).toMatchObject({ name: 'agreeTest' });
    expect(leaveTo).toHaveBeenCalledTimes(1);
  });

  it('is agreed or dropped at the revision that is shown, and the page comes back without a query', async () => {
    const { server, saving } = open();
    server.on('getChangeReview', () => REVIEW);
    server.on('agreeTest', () => ({ number: 2 }));
    await act(() => saving().agree());
    expect(server.calls.at(-1)).toMatchObject({ name: 'agreeTest', params: { code: 'BIL-01' }, input: { number: 2, revision: 4 } });
    expect(leaveTo).toHaveBeenCalledExactlyOnceWith('/brindlemere/');
    server.on('discardDraft', () => {
      throw new Refusal('invalid', 'It is the first version.');
    });
    await act(() => saving().discard());
    expect(state()).toBe('It is the first version.');
    expect(leaveTo).toHaveBeenCalledTimes(1);
  });

  it('asks before the page is left with something unsaved', async () => {
    const { user } = open();
    const leave = () => {
      const event = new Event('beforeunload', { cancelable: true });
      dispatchEvent(event);
      return event.defaultPrevented;
    };
    expect(leave()).toBe(false);
    await user.type(screen.getByLabelText('Name'), '!');
    expect(leave()).toBe(true);
  });
});
