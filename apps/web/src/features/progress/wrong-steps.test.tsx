import type { StepTriesView, WrongSteps, WrongStepView } from '@kindred-baton/contracts/progress/wrong-steps';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { openScreen } from '../../../test-support/open-screen.tsx';
import { WrongStepsView } from './wrong-steps-view.tsx';

const step = (code: string, more: Partial<WrongStepView> = {}): WrongStepView => ({
  test: { code, name: `Test ${code}` },
  ...{ version: 2, index: 3, versions: [], sentence: `Press "${code}".`, expect: '', teams: ['Billing'] },
  ...{ tries: 7, failed: 3, blocked: 1, low: 0.25, high: 0.84, defects: [], waiting: { turns: 0, minutes: 0 } },
  ...more,
});
const VIEW: WrongSteps = {
  cycle: { code: 'ACC-2', name: 'Acceptance 2', state: 'open', startsOn: '2026-11-20', endsOn: '2026-12-10' },
  cycles: [{ code: 'ACC-2', name: 'Acceptance 2' }],
  ...{ each: 'step', things: [], unplaced: 0, only: null },
  ...{ steps: 40, tries: 300, errors: 6, errorsOfTen: 6, unwritten: 2, rows: { page: 1, from: 0, size: 2 } },
  wrong: [
    step('BIL-01', {
      waiting: { turns: 5, minutes: 90 },
      defects: [
        { code: 'TQ-1', title: 'Wrong band', isOpen: true },
        { code: 'TQ-2', title: 'Old', isOpen: false },
      ],
    }),
    step('CUS-02', { failed: 0, blocked: 2 }),
  ],
};
const tries = (of: WrongStepView): StepTriesView => ({
  step: of,
  seen: [
    { text: 'The charge of band C', tries: 3 },
    { text: '', tries: 1 },
  ],
  ...{ otherSeen: 0, holds: [], wrong: [] },
  asked: [
    { turn: 't1' as never, person: 'Bo Lind', defect: 'TQ-1', turns: 3, nudges: 1 },
    { turn: 't2' as never, person: null, defect: 'TQ-3', turns: 1, nudges: 0 },
  ],
});

function open(view: WrongSteps = VIEW, address = '/brindlemere/progress?view=steps') {
  const opened = openScreen(<WrongStepsView initial={view} initialAddress={address} />, { address });
  opened.server.on(
    'getStepTries',
    ({ input }) => tries(view.wrong.find(({ test }) => test.code === (input as { test: string }).test)!) as never,
  );
  return { ...opened, ...opened.show() };
}

describe('where it goes wrong', () => {
  it('says in its first line what the worst few make, and what is not among them', () => {
    open();
    expect(screen.getByText(/2 of 40 steps/).parentElement?.textContent).toBe(
      '2 of 40 steps make 6 of 6 errors in 300 tries; the first alone keeps 5 turns waiting' +
        'Not among these: 2 turns without written steps that failed or were blocked.',
    );
  });

  it('has for each step its errors of tries, the bounds of what they say, its defects and what waits', () => {
    open();
    const [first, second] = screen.getAllByRole('row').slice(1) as [HTMLElement, HTMLElement];
    expect(first.textContent).toContain('BIL-01 Test BIL-01, step 4 · Billing');
    expect(first.textContent).toContain('4 of 7, 1 blocked');
    expect(second.textContent).toContain('2 of 7 blocked');
    expect(within(first).getByRole('img', { name: 'at least 25%, so far 57%, at most 84%' })).toBeTruthy();
    expect(within(first).getByRole('link', { name: 'TQ-1' })).toBeTruthy();
    expect(within(first).getByRole('button', { name: '5 turns, 1 h 30 of work' })).toBeTruthy();
  });

  it('tells of the chosen step what was seen instead, and keeps the choice in the address', async () => {
    open();
    await screen.findByText('The charge of band C');
    expect(screen.getByText('Nothing was written')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Press "CUS-02".' }));
    await waitFor(() => expect(location.search).toContain('step=CUS-02%3A2%3A4'));
    expect(screen.getByRole('button', { name: 'Press "CUS-02".' }).getAttribute('aria-pressed')).toBe('true');
    expect(within(screen.getByRole('complementary')).getByRole('heading', { name: 'Press "CUS-02".' })).toBeTruthy();
  });

  it('says with whom it is, and asks them from there', async () => {
    const { server } = open();
    server.on('nudge', () => ({ to: 'Bo Lind', count: 2 }));
    const nudges = await screen.findAllByRole('button', { name: /^Nudge/ });
    expect(nudges.map((button) => button.textContent)).toEqual(['Nudge1×']);
    expect(screen.getByText('Nobody yet').closest('li')?.textContent).toBe('Nobody yet to fix TQ-3, 1 turn');
    fireEvent.click(nudges[0]!);
    await screen.findByText('Bo Lind gets a friendly word.');
    expect(server.calls.flatMap(({ name, params }) => (name === 'nudge' ? [params] : []))).toEqual([{ turn: 't1' }]);
  });

  it('tells nothing tried from nothing wrong', () => {
    const none = { ...VIEW, errors: 0, errorsOfTen: 0, unwritten: 0, wrong: [], rows: { page: 1, from: 0, size: 0 } };
    open(none);
    expect(screen.getByText('All 300 tries of 40 steps passed.')).toBeTruthy();
    open({ ...none, steps: 0, tries: 0 });
    expect(screen.getByText('Nothing was tried yet')).toBeTruthy();
  });
});
