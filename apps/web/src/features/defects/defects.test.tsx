import type { DefectDetail } from '@kindred-baton/contracts/defects/defect';
import type { DefectStatus } from '@kindred-baton/core/defects/defect';
import { asksWhy, DEFECT_STATUSES, isAtRetest, listDefectMoves, nameDefectMove } from '@kindred-baton/core/defects/defect';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { leaveTo } from '../../client/leave-to.ts';
import { defer, openScreen, Refusal } from '../../../test-support/open-screen.tsx';
import { DefectTalk } from './defect-talk.tsx';
import { LogDefectDialog } from './log-defect-dialog.tsx';
import { MoveDefect } from './move-defect.tsx';

vi.mock('../../client/leave-to.ts', () => ({ leaveTo: vi.fn() }));

const defect = (more: Partial<DefectDetail> = {}) =>
  ({ code: 'TQ-203', status: DEFECT_STATUSES[0], talk: [], turns: [{}], foundBy: 'Wanda Rusk', ...more }) as unknown as DefectDetail;

describe('moving a defect', () => {
  const open = (status: DefectStatus, rights?: never[]) => {
    const opened = openScreen(<MoveDefect defect={defect({ status })} />, rights ? { rights } : {});
    opened.server.on('moveDefect', () => ({ done: true }) as never);
    opened.show();
    return opened;
  };
  const withMove = (takes: (to: DefectStatus) => boolean) => {
    const from = DEFECT_STATUSES.find((status) => listDefectMoves(status).some(takes));
    const to = from && listDefectMoves(from).find(takes);
    if (!from || !to) throw new Error('There is no such move.');
    return { from, to, name: nameDefectMove(from, to) };
  };

  it.each(DEFECT_STATUSES)('offers from *%s* what the rules allow, and nothing else', (status) => {
    open(status);
    expect(screen.queryAllByRole('button').map(({ textContent }) => textContent)).toEqual(
      listDefectMoves(status).map((to) => nameDefectMove(status, to)),
    );
  });

  it('says with the move from where it was seen, so that a move of somebody else is noticed', async () => {
    const { from, to, name } = withMove((to) => !asksWhy(to) && !isAtRetest(to));
    const { user, server } = open(from);
    await user.click(screen.getByRole('button', { name }));
    await screen.findByText(`TQ-203 is ${to}.`);
    expect(server.calls[0]).toMatchObject({ params: { code: 'TQ-203' }, input: { from, to } });
  });

  it('fixed: says that its turns are back with their testers', async () => {
    const { from, name } = withMove(isAtRetest);
    const { user } = open(from);
    await user.click(screen.getByRole('button', { name }));
    expect(await screen.findByText('TQ-203 is fixed; its turns are back with their testers.')).toBeTruthy();
  });

  it('asks why where a reason is wanted, and stays open with it when it is refused', async () => {
    const { from, to, name } = withMove(asksWhy);
    const { user, server } = open(from);
    await user.click(screen.getByRole('button', { name }));
    expect(server.calls).toEqual([]);
    const dialog = within(await screen.findByRole('dialog', { name: `${name} TQ-203` }));
    server.on('moveDefect', () => {
      throw new Refusal('conflict', 'Somebody has moved it.');
    });
    await user.type(dialog.getByRole('textbox'), 'It is meant so');
    await user.click(dialog.getByRole('button', { name }));
    expect((await dialog.findByRole('alert')).textContent).toBe('Somebody has moved it.');
    expect(dialog.getByRole('textbox')).toHaveProperty('value', 'It is meant so');
    server.on('moveDefect', () => ({ done: true }) as never);
    await user.click(dialog.getByRole('button', { name }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(server.calls.at(-1)?.input).toEqual({ from, to, reason: 'It is meant so' });
  });

  it('is not offered to who may not', () => {
    open(DEFECT_STATUSES[0], []);
    expect(screen.queryAllByRole('button')).toEqual([]);
  });
});

describe('a defect that was seen at no turn', () => {
  it('fixed: says who is asked whether it is gone', async () => {
    const apart = openScreen(<MoveDefect defect={defect({ status: 'accepted', turns: [] })} />);
    apart.server.on('moveDefect', () => ({ done: true }) as never);
    apart.show();
    await apart.user.click(screen.getByRole('button', { name: 'Mark as fixed' }));
    expect(await screen.findByText('TQ-203 is fixed; Wanda Rusk is asked whether it is gone.')).toBeTruthy();
  });

  it('is logged with where and in which cycle; only cycles that are open are offered', async () => {
    const { server, show, user } = openScreen(<LogDefectDialog isOpen onClose={() => undefined} />);
    const cycle = (code: string, state: string) => ({ code, name: `Cycle ${code}`, state });
    server.on('listCycles', () => ({ cycles: [cycle('A', 'closed'), cycle('B', 'open'), cycle('C', 'planning')] }) as never);
    server.on('getOutline', () => ({ codes: ['NS'], names: ['New supply'], parents: [-1] }));
    server.on('logDefectApart', () => ({ code: 'TQ-300' }));
    show();
    await screen.findByRole('option', { name: 'Cycle B' });
    const shown = within(screen.getByLabelText('Cycle')).getAllByRole('option');
    expect(shown.map(({ textContent }) => textContent)).toEqual(['Cycle B']);
    await user.type(screen.getByLabelText('In a few words'), 'The crest is old');
    await user.type(screen.getByLabelText('Seen'), 'Last year’s');
    await screen.findByRole('option', { name: /NS New supply/ });
    await user.click(screen.getByRole('button', { name: 'Log it' }));
    await waitFor(() => expect(leaveTo).toHaveBeenCalledExactlyOnceWith('/brindlemere/defects/TQ-300'));
    expect(server.calls.find(({ name }) => name === 'logDefectApart')?.input).toMatchObject({
      ...{ title: 'The crest is old', seen: 'Last year’s', cycle: 'B', node: 'NS', kind: 'function', severity: 'slows the business' },
    });
  });
});

describe('talk about a defect', () => {
  const open = (talk: DefectDetail['talk'] = []) => {
    const opened = openScreen(<DefectTalk defect={defect({ talk })} />);
    opened.show();
    return { ...opened, field: () => screen.getByRole<HTMLTextAreaElement>('textbox', { name: 'Say something' }) };
  };

  it('is read in order, with who said it', () => {
    open(['First', 'Second'].map((text, at) => ({ id: crypto.randomUUID(), by: `Person ${at}`, at: '2026-11-27T09:00:00.000Z', text })));
    expect(screen.getAllByRole('listitem').map(({ textContent }) => textContent?.replace(/, .*?(?=First|Second)/, ' '))).toEqual([
      'Person 0 First',
      'Person 1 Second',
    ]);
  });

  it('is sent once, under one id, even when the first try fails; then the field is empty and the next has an id of its own', async () => {
    const { user, server, field } = open();
    server.goAway();
    await user.type(field(), 'Looks like the price list');
    await user.click(screen.getByRole('button', { name: 'Say it' }));
    await screen.findByRole('alert');
    expect(field().value).toBe('Looks like the price list');
    server.goAway(false);
    server.on('sayDefect', () => ({ done: true }) as never);
    await user.click(screen.getByRole('button', { name: 'Say it' }));
    await waitFor(() => expect(field().value).toBe(''));
    await user.type(field(), 'Yes');
    await user.click(screen.getByRole('button', { name: 'Say it' }));
    await waitFor(() => expect(server.count('sayDefect')).toBe(2));
    const ids = server.calls.filter(({ name }) => name === 'sayDefect').map(({ input }) => input['id']);
    expect(new Set(ids).size).toBe(2);
  });

  it('keeps what is typed while a word is on its way, and does not send it twice', async () => {
    const { user, server, field } = open();
    const answer = defer<never>();
    server.on('sayDefect', () => answer.promise);
    await user.type(field(), 'One');
    await user.click(screen.getByRole('button', { name: 'Say it' }));
    await user.type(field(), ' two');
    expect(screen.getByRole('button', { name: 'Say it' })).toHaveProperty('disabled', true);
    answer.resolve({ done: true } as never);
    await waitFor(() => expect(field().value).toBe('two'));
    expect(server.count('sayDefect')).toBe(1);
  });

  it('of nothing but blanks cannot be sent', async () => {
    const { user, field } = open();
    await user.type(field(), '   ');
    expect(screen.getByRole('button', { name: 'Say it' })).toHaveProperty('disabled', true);
  });
});
