import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { openScreen } from '../../../test-support/open-screen.tsx';
import { makeAttempt, makeGuide } from '../../../test-support/fixtures.ts';
import { WindowView } from './window-app.tsx';

const picture = (stepIndex: number) => ({
  id: `e${stepIndex}` as never,
  stepIndex,
  name: `step ${stepIndex + 1}.jpg`,
  mediaType: 'image/jpeg',
  size: 9,
});
const word = (stepIndex: number, outcome: 'passed' | 'failed', actual = '') => ({
  ...{ stepIndex, outcome, note: '', by: 'office-1', isByRunner: true, expected: '', actual, unlooked: '', tookMs: 90 },
});

function open(attempts: ReturnType<typeof makeAttempt>[], address = '/brindlemere/turns/turn-1/window') {
  const guide = makeGuide({ attempts });
  const opened = openScreen(<WindowView initial={guide} />, { address });
  opened.server.on('getGuide', () => guide as never);
  return { ...opened, ...opened.show() };
}

describe('the window of a turn', () => {
  const ended = makeAttempt({
    ...{ isWithRunners: true, runner: 'office-1', finishedAt: '2026-11-27T09:00:00.000Z', outcome: 'failed' },
    ...{ results: [word(0, 'passed'), word(1, 'failed', 'It stays empty')], evidence: [picture(0), picture(1)] as never },
  });

  it('says that nobody has tried it yet', () => {
    open([]);
    expect(screen.getByText(/Nobody has tried this turn yet/)).toBeTruthy();
  });

  it('begins where an attempt went wrong, with what it showed, and goes through its steps by keys and by choice', async () => {
    open([ended]);
    expect(screen.getByRole('heading', { name: 'As it was at step 2' })).toBeTruthy();
    expect(screen.getByText('It stays empty')).toBeTruthy();
    fireEvent.keyDown(document.body, { key: 'ArrowLeft' });
    await waitFor(() => expect(screen.getByRole('heading', { name: 'As it was at step 1' })).toBeTruthy());
    expect(location.search).toContain('step=1');
    const steps = within(screen.getByRole('region', { name: 'Steps' }));
    fireEvent.click(steps.getAllByRole('button')[2]!);
    await waitFor(() => expect(screen.getByText('No picture was taken at this step.')).toBeTruthy());
  });
});
