import 'fake-indexeddb/auto';
import type { GuideView } from '@kindred-baton/contracts/turns/turn';
import { cleanup, screen, waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { makeAttempt, makeGuide, makeTurn, makeVersion, makeResult } from '../../../../test-support/fixtures.ts';
import { openScreen, Refusal } from '../../../../test-support/open-screen.tsx';
import { GuidePanel } from './guide-panel.tsx';
import { openShelf } from './outbox-shelf.ts';

/** The whole guide before a server that keeps what it is told, as the real one does. */
function open(guide: GuideView = makeGuide({ attempts: [makeAttempt()] })) {
  const opened = openScreen(<GuidePanel turnId="turn-1" />);
  const { server, show } = opened;
  let now = guide;
  server.on('getGuide', () => now);
  server.on('recordStep', () => undefined as never);
  server.on('startAttempt', () => {
    now = { ...now, attempts: [makeAttempt({ number: now.attempts.length + 1 }), ...now.attempts] };
    return undefined as never;
  });
  show();
  const words = () =>
    server.calls
      .filter(({ name }) => name === 'recordStep')
      .map(({ params, input }) => [params['step'], input['outcome'], input['note'], input['kept']]);
  return { ...opened, words };
}

const step = (number: number) => screen.findByText(`Step ${number} of 3`);

describe('a turn before it is begun', () => {
  it('shows what has come, from whom and where to begin; Begin leads to its first step', async () => {
    const { user, server } = open(makeGuide({ note: 'Ask for the old meter first.', newerVersion: 2 }));
    expect(await screen.findByText('Survey no. from Tom Reed, leg 2')).toBeTruthy();
    expect(screen.getByText('Ask for the old meter first.')).toBeTruthy();
    expect(screen.getByText('Version 2 is newer; this cycle keeps version 1.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Begin' }));
    await step(1);
    expect(server.calls.find(({ name }) => name === 'startAttempt')).toMatchObject({ params: { turn: 'turn-1' } });
  });

  it('says why it cannot be begun, or by what it is held', async () => {
    open(makeGuide({ refusal: 'The cycle is closed.' }));
    expect(await screen.findByText('The cycle is closed.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Begin' })).toBeNull();
  });

  it('says what an attempt took, and lets whoever made it say better, in whole minutes', async () => {
    const done = makeAttempt({
      finishedAt: '2026-11-27T09:30:00.000Z',
      outcome: 'passed',
      spent: { counted: 22.6, said: null, canSay: true },
    });
    const { user, server } = open(makeGuide({ attempts: [done] }));
    expect((await screen.findByRole('link', { name: 'Whole run' })).getAttribute('href')).toMatch(/\/runs\/run-1\/report\?format=html$/);
    expect(screen.getByText(/took 23 min/)).toBeTruthy();
    server.on('sayMinutes', ({ input }) => {
      if (input.minutes === 99)
        throw new Refusal('invalid', 'Check what you entered.', { problems: [{ path: 'minutes', message: 'Too many.' }] });
      return { done: true };
    });
    await user.click(screen.getByRole('button', { name: 'Correct' }));
    const field = await screen.findByLabelText('Minutes that it took');
    for (const typed of ['99', '40']) {
      await user.clear(field);
      await user.type(field, typed);
      await user.click(screen.getByRole('button', { name: 'It took that' }));
      if (typed === '99') expect(await screen.findByText('Too many.')).toBeTruthy();
    }
    await waitFor(() => expect(screen.queryByLabelText('Minutes that it took')).toBeNull());
    const said = server.calls.filter(({ name }) => name === 'sayMinutes');
    expect(said.map(({ params, input }) => [params['attempt'], input['minutes']])).toEqual([
      ['attempt-1', 99],
      ['attempt-1', 40],
    ]);
  });

  it('says of a step that failed what was to be done, what should be seen and what was, with its picture; of another version only what was said', async () => {
    const [, second] = makeVersion().steps;
    const file = { id: 'file-1' as never, stepIndex: 1, name: 'grey.png', mediaType: 'image/png', size: 1 };
    const failed = makeAttempt({
      ...{ finishedAt: '2026-11-27T09:30:00.000Z', outcome: 'failed', evidence: [file, { ...file, id: 'file-2' as never, stepIndex: 0 }] },
      results: [makeResult(0, 'passed'), makeResult(1, 'failed', 'It stays grey')],
    });
    const older = makeAttempt({ ...failed, id: 'attempt-2' as never, number: 2, isOfVersion: false, evidence: [] });
    open(makeGuide({ attempts: [failed, older] }));
    expect(await screen.findByText(/Step 2 of 3: It stays grey/)).toBeTruthy();
    expect(screen.getAllByText(new RegExp(`"${second!.target}"`))).toHaveLength(1);
    expect(screen.getByRole('img', { name: 'grey.png' })).toBeTruthy();
    expect(screen.getByRole('link', { name: 'step 1' })).toBeTruthy();
    expect(screen.getByText(/^Step 2: It stays grey/)).toBeTruthy();
  });

  it('says who said what an attempt took, and takes that back', async () => {
    const done = makeAttempt({
      finishedAt: '2026-11-27T09:30:00.000Z',
      outcome: 'passed',
      spent: { counted: 22.6, said: 70, canSay: true },
    });
    const { user, server } = open(makeGuide({ attempts: [done] }));
    expect(await screen.findByText(/took 1 h 10, as you said; by its words 23 min/)).toBeTruthy();
    server.on('sayMinutes', () => ({ done: true }));
    await user.click(screen.getByRole('button', { name: 'Correct' }));
    await user.click(await screen.findByRole('button', { name: 'As its words say' }));
    await waitFor(() => expect(server.calls.find(({ name }) => name === 'sayMinutes')?.input).toEqual({ minutes: null }));
  });

  it('names the hold, not the rule, where something holds it', async () => {
    open(makeGuide({ refusal: 'It waits.', turn: makeTurn({ heldBy: 'TQ-203, The price is wrong' }) }));
    expect(await screen.findByText('Held: TQ-203, The price is wrong.')).toBeTruthy();
  });

  it('leads to the defect that must be fixed first, wherever that is said', async () => {
    open(makeGuide({ refusal: 'TQ-203, TQ-7 must be fixed first; then this turn comes back to you.' }));
    const links = await screen.findAllByRole('link', { name: /^TQ-/ });
    expect(links.map((link) => link.getAttribute('href'))).toEqual(['/brindlemere/defects/TQ-203', '/brindlemere/defects/TQ-7']);
  });

  it('lets the lead say that what blocked it is out of the way; not while a defect holds it', async () => {
    const turn = makeTurn({ state: 'done', status: 'blocked', stoppedBy: { words: 'No meter', defects: [] } });
    const { user, server } = open(makeGuide({ turn }));
    server.on('liftBlock', () => ({ done: true }));
    await user.click(await screen.findByRole('button', { name: 'Lift the block' }));
    await user.type(await screen.findByRole('textbox'), 'It is registered.');
    await user.click(screen.getByRole('button', { name: 'It can go on' }));
    await waitFor(() =>
      expect(server.calls.find(({ name }) => name === 'liftBlock')).toMatchObject({ input: { word: 'It is registered.' } }),
    );
    cleanup();
    open(makeGuide({ turn: { ...turn, stoppedBy: { words: '', defects: [{ code: 'D-1', title: 'Wrong' }] } } }));
    await screen.findByText('It needs nothing from anybody.').catch(() => undefined);
    expect(screen.queryByRole('button', { name: 'Lift the block' })).toBeNull();
  });

  it('keeps what was tried: outcome, words and values of each attempt', async () => {
    const attempts = [
      makeAttempt({ number: 2, finishedAt: '2026-11-27T10:00:00.000Z', outcome: 'passed', kept: { 'Quote no.': 'Q-118' } }),
      makeAttempt({
        ...{ number: 1, finishedAt: '2026-11-26T10:00:00.000Z', outcome: 'failed', id: 'attempt-0' as never },
        results: [makeResult(1, 'failed', 'No address came.')],
      }),
    ];
    open(makeGuide({ attempts }));
    expect(await screen.findByText('Step 2 of 3: No address came.')).toBeTruthy();
    expect(screen.getByText('Q-118')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Try again' })).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Side by side' })).toBeTruthy();
  });
});

describe('an attempt', () => {
  beforeEach(async () => {
    const shelf = openShelf('person-lea');
    for (const { key } of await shelf.list()) await shelf.remove(key);
  });

  it('is led step by step, with the value in the sentence; a key tells how it went', async () => {
    const { user, words } = open();
    await step(1);
    await user.keyboard('1');
    await step(2);
    expect(screen.getByText(/The address of/).textContent).toContain('SV-30758');
    expect(screen.getByText('from Tom Reed, leg 2')).toBeTruthy();
    await user.keyboard('{ArrowLeft}');
    await step(1);
    await user.keyboard('{ArrowRight}4');
    await step(3);
    await waitFor(() =>
      expect(words()).toEqual([
        ['0', 'passed', '', undefined],
        ['1', 'skipped', '', undefined],
      ]),
    );
  });

  it('does not pass a step whose value is not what it has to be; what is kept goes on to the next', async () => {
    const { user, words } = open();
    await step(1);
    await user.keyboard('11');
    const field = await screen.findByRole('textbox', { name: 'Type the Quote no. that you see' });
    await user.type(field, 'Q-1{Enter}');
    expect(screen.getByRole('textbox', { name: /Quote no/, description: /Quote no/ }).getAttribute('aria-invalid')).toBe('true');
    expect(words()).toHaveLength(2);
    await user.clear(field);
    await user.type(field, 'Q-118{Enter}');
    expect(await screen.findByText('That was the last step')).toBeTruthy();
    expect(screen.getByText('to Ada Flint for Record the deposit')).toBeTruthy();
    await waitFor(() => expect(words().at(-1)).toEqual(['2', 'passed', '', 'Q-118']));
  });

  it('records a failure at once, then asks for its words, which follow as they are typed', async () => {
    const { user, words } = open();
    await step(1);
    await user.keyboard('2');
    expect(await screen.findByText(/Say above what you saw/)).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Finish here' })).toHaveProperty('disabled', true);
    await waitFor(() => expect(words()).toEqual([['0', 'failed', '', undefined]]));
    await user.type(screen.getByRole('textbox'), 'The page stays empty.');
    await waitFor(() => expect(words().at(-1)).toEqual(['0', 'failed', 'The page stays empty.', undefined]));
    await user.click(screen.getByRole('button', { name: 'Go on all the same' }));
    await step(2);
    await waitFor(() => expect(words().at(-1)).toEqual(['0', 'failed', 'The page stays empty.', undefined]));
  });

  it('a letter typed into a field is a letter, no outcome; what is typed is kept when the page is left at once', async () => {
    const { user, words } = open();
    await step(1);
    await user.type(screen.getByRole('textbox'), '1234');
    await step(1);
    expect(words()).toEqual([]);
    window.dispatchEvent(new Event('pagehide'));
    await waitFor(() => expect(words()).toEqual([['0', null, '1234', undefined]]));
  });

  it('keeps a value as soon as it is one, without leaving the field; half of one neither goes out nor undoes a step that passed', async () => {
    const { user, words } = open();
    await step(1);
    await user.keyboard('11');
    const field = await screen.findByRole('textbox', { name: 'Type the Quote no. that you see' });
    await user.type(field, 'Q-118');
    await waitFor(() => expect(words().at(-1)).toEqual(['2', null, '', 'Q-118']));
    await user.type(field, '{Enter}');
    await waitFor(() => expect(words().at(-1)).toEqual(['2', 'passed', '', 'Q-118']));
    await user.click(await screen.findByRole('button', { name: 'Back to the steps' }));
    const told = words().length;
    await user.type(await screen.findByRole('textbox', { name: 'Type the Quote no. that you see' }), '-and more');
    window.dispatchEvent(new Event('pagehide'));
    expect(words()).toHaveLength(told);
  });

  it('keeps what could not be sent, says how much, and sends it in order when the server is back', async () => {
    const { user, server, words } = open();
    await step(1);
    server.goAway();
    await user.keyboard('1');
    await step(2);
    await user.keyboard('4');
    expect(await screen.findByText(/2 still to be sent/)).toBeTruthy();
    expect((await openShelf('person-lea').list()).map(({ item }) => item.stepIndex)).toEqual([0, 1]);
    expect(await openShelf('somebody else').list()).toEqual([]);
    server.goAway(false);
    await waitFor(() => expect(words().map(([index]) => index)).toEqual(['0', '1']), { timeout: 10_000 });
    await waitFor(() => expect(screen.queryByText(/still to be sent/)).toBeNull());
  });

  it('lays what still waits in this browser over what the server has, when the page is opened again', async () => {
    const item = { wordId: crypto.randomUUID(), outcome: 'passed' as const, note: 'typed in the train', at: '2026-11-27T09:30:00.000Z' };
    await openShelf('person-lea').add({
      ...{ kind: 'step', api: '/api/brindlemere', attemptId: makeAttempt().id, stepIndex: 0, word: item },
    });
    const { words } = open();
    await waitFor(() => expect(words()).toEqual([['0', 'passed', 'typed in the train', undefined]]));
  });

  it('tells a word that the server refuses at its step, also when the page is opened again, until it is said anew', async () => {
    const { user, server } = open();
    server.on('recordStep', () => {
      throw new Refusal('conflict', 'The turn has gone to Tom Reed.');
    });
    await step(1);
    await user.keyboard('1');
    expect(await screen.findByText('Step 1: The turn has gone to Tom Reed.')).toBeTruthy();
    const listed = async () => (await openShelf('person-lea').list()).map(({ refused }) => refused);
    await waitFor(async () => expect(await listed()).toEqual(['The turn has gone to Tom Reed.']));
    cleanup();
    const again = open();
    await step(1);
    expect(await screen.findByText('The turn has gone to Tom Reed.')).toBeTruthy();
    await again.user.keyboard('1');
    await waitFor(async () => expect(await listed()).toEqual([]));
    expect(again.words()).toHaveLength(1);
  });

  it('finishes once all is told and sent, and says whose turn it is now', async () => {
    const version = makeVersion({ steps: [{ do: 'press', target: 'Save' }] });
    const { user, server, words } = open(makeGuide({ version, attempts: [makeAttempt()] }));
    server.on('finishAttempt', () => ({ outcome: 'passed', next: [{ title: 'Record the deposit', person: 'Ada Flint' }] }));
    await screen.findByText('Step 1 of 1');
    await user.keyboard('a');
    await user.click(await screen.findByRole('button', { name: 'Finish …' }));
    expect(await screen.findByText('Not all steps are told yet')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Finish' })).toHaveProperty('disabled', true);
    await user.click(screen.getByRole('button', { name: 'Back to the steps' }));
    await user.keyboard('1');
    await user.click(await screen.findByRole('button', { name: 'Finish and pass on' }));
    expect(await screen.findByText('Passed on. Ada Flint can begin Record the deposit.')).toBeTruthy();
    expect(words()).toHaveLength(1);
  });

  it('does not finish while the cycle’s rules ask for more, and says for what', async () => {
    const version = makeVersion({ steps: [{ do: 'press', target: 'Save' }] });
    const { user } = open(makeGuide({ version, attempts: [makeAttempt()], rules: { evidence: 'each step', failure: [] } }));
    await screen.findByText('Step 1 of 1');
    await user.keyboard('1');
    expect(await screen.findByRole('button', { name: 'Finish and pass on' })).toHaveProperty('disabled', true);
    expect(screen.getByText(/picture/)).toBeTruthy();
  });

  it('folds to one line that still tells that it worked', async () => {
    const { user, words } = open();
    await step(1);
    await user.click(screen.getByRole('button', { name: 'Fold the guide to one line' }));
    await user.click(screen.getByRole('button', { name: 'It worked' }));
    await waitFor(() => expect(words()).toEqual([['0', 'passed', '', undefined]]));
    await user.click(screen.getByRole('button', { name: 'Show the whole guide' }));
    await step(2);
  });
});

describe('a step that asks a door', () => {
  const steps = [
    { do: 'ask' as const, target: 'GET /bills/7', within: 'Billing interface' },
    { do: 'see' as const, target: '$.state', value: 'held back' },
    { do: 'press' as const, target: 'Close' },
  ];

  it('is asked for her, and what the next step looks for is found in the answer', async () => {
    const { user, server } = open(makeGuide({ version: makeVersion({ steps }), attempts: [makeAttempt()] }));
    server.on('askForStep', () => ({
      ...{ isAnswered: true, text: 'Status code 200\n{"state": "open"}' },
      looks: [{ holds: false, actual: 'open' }],
    }));
    await user.click(await screen.findByRole('button', { name: 'Ask it now' }));
    expect(await screen.findByText(/"state": "open"/)).toBeTruthy();
    expect(server.calls.find(({ name }) => name === 'askForStep')).toMatchObject({ params: { step: '0' } });
    await user.click(screen.getByRole('button', { name: 'It worked' }));
    expect(await screen.findByText(/In the answer:/)).toBeTruthy();
    expect(screen.getByText(/which is not what is looked for/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'It worked' }));
    await step(3);
    expect(screen.queryByText(/In the answer:/)).toBeNull();
  });

  it('says why there is no answer', async () => {
    const { user, server } = open(makeGuide({ version: makeVersion({ steps }), attempts: [makeAttempt()] }));
    server.on('askForStep', () => ({
      isAnswered: false,
      text: 'There is no door “Billing interface” in this environment. None is set.',
      looks: [],
    }));
    await user.click(await screen.findByRole('button', { name: 'Ask it now' }));
    expect((await screen.findByRole('alert')).textContent).toBe('There is no door “Billing interface” in this environment. None is set.');
  });
});
