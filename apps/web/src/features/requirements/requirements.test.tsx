import type { RequirementItem, Traceability } from '@kindred-baton/contracts/requirements/requirement';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { openScreen, Refusal } from '../../../test-support/open-screen.tsx';
import { Requirements } from './requirements-app.tsx';

const place = (code: string) => ({ code, name: `Name ${code}` });
const requirement = (code: string, more: Partial<RequirementItem> = {}): RequirementItem => ({
  ...{ id: `id-${code}` as RequirementItem['id'], code, title: `What ${code} says`, description: '', kind: 'functional', priority: 'high' },
  ...{
    state: 'verified',
    nodes: [place('NS')],
    tests: [{ ...place('BIL-01'), standing: { standing: 'passed', cycle: 'ACC-1', turns: 1, passed: 1 } }],
  },
  ...more,
});
const VIEW: Traceability = {
  requirements: [
    requirement('RQ-001'),
    requirement('RQ-002', { state: 'refuted', kind: 'acceptance', title: 'Bills are right' }),
    requirement('RQ-003', { state: 'not yet', tests: [], nodes: [] }),
  ],
  tests: [
    {
      code: 'BIL-01',
      name: 'Price',
      node: 'NS',
      standing: { standing: 'passed', cycle: 'ACC-1', turns: 1, passed: 1 },
      requirements: ['RQ-001'],
    },
    { code: 'BIL-09', name: 'Spare', node: 'NS', standing: null, requirements: [] },
  ],
};

function open(address = '/requirements') {
  const opened = openScreen(<Requirements initial={VIEW} />, { address });
  opened.server.on('getTraceability', () => VIEW);
  opened.server.on('getOutline', () => ({ codes: [], names: [], parents: [] }));
  opened.show();
  return opened;
}
const shown = () =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getAllByRole('cell')[0]?.textContent);

describe('requirements', () => {
  it('say their gaps in the first line; each number opens what it counts, and closes it again', async () => {
    const { user } = open();
    expect(screen.getByText('3 requirements')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: '· 1 refuted' }));
    expect([shown(), location.search]).toEqual([['RQ-002'], '?show=refuted']);
    await user.click(screen.getByRole('button', { name: '· 1 refuted' }));
    expect(shown()).toHaveLength(3);
    expect(screen.getByRole('link', { name: '· 1 test serves none' }).getAttribute('href')).toBe('/brindlemere/tests?serves=none');
  });

  it('are narrowed by words and kind, kept in the address; the numbers stay those of all that is left', async () => {
    const { user } = open();
    await user.type(screen.getByRole('searchbox', { name: 'Narrow the list' }), 'bills right');
    expect(shown()).toEqual(['RQ-002']);
    expect(location.search).toBe('?q=bills+right');
    await user.clear(screen.getByRole('searchbox', { name: 'Narrow the list' }));
    await user.click(screen.getByRole('button', { name: /^Kind/ }));
    await user.click(await screen.findByRole('option', { name: 'acceptance' }));
    expect(shown()).toEqual(['RQ-002']);
    expect(screen.getByText('1 requirement')).toBeTruthy();
  });

  it('are walked by arrows; the chosen one is told beside the list', async () => {
    const { user } = open('/requirements?requirement=RQ-001');
    screen.getAllByRole('rowgroup')[0]?.focus();
    await user.keyboard('{ArrowDown}');
    expect(location.search).toBe('?requirement=RQ-002');
    const panel = within(await screen.findByRole('complementary', { name: 'Requirement RQ-002' }));
    expect(panel.getByText('refuted · acceptance · high priority')).toBeTruthy();
    await user.keyboard('{ArrowDown}{ArrowDown}');
    expect(location.search).toBe('?requirement=RQ-003');
    expect(await screen.findByText('No test shows it yet.')).toBeTruthy();
  });

  it('say so when none is like that', () => {
    open('/requirements?q=zebra');
    expect(screen.getByText('None is like that here')).toBeTruthy();
  });

  it('are made with the next code, links by their codes; a link to nothing stands at its field', async () => {
    const { user, server } = open();
    server.on('addRequirement', () => {
      throw new Refusal('invalid', 'x', { problems: [{ path: 'tests.0', message: 'There is no test BIL-77.' }] });
    });
    await user.click(screen.getByRole('button', { name: 'New requirement' }));
    const dialog = within(await screen.findByRole('dialog', { name: 'New requirement' }));
    expect(dialog.getByLabelText('Code')).toHaveProperty('value', 'RQ-004');
    await user.type(dialog.getByLabelText('What must hold'), 'Meters fit');
    await user.type(dialog.getByLabelText('Tests'), 'BIL-77, BIL-01;BIL-02');
    await user.click(dialog.getByRole('button', { name: 'Save' }));
    expect(await dialog.findByText('There is no test BIL-77.')).toBeTruthy();
    expect(server.calls.at(-1)?.input).toMatchObject({ title: 'Meters fit', tests: ['BIL-77', 'BIL-01', 'BIL-02'], nodes: [] });
    server.on('addRequirement', () => ({ code: 'RQ-004' }));
    await user.click(dialog.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(location.search).toBe('?requirement=RQ-004');
  });

  it('are removed; one that is kept stays open with the reason', async () => {
    const { user, server } = open('/requirements?requirement=RQ-001');
    server.on('removeRequirement', () => {
      throw new Refusal('conflict', 'It was signed off.');
    });
    await user.click(await screen.findByRole('button', { name: 'Edit' }));
    await user.click(await screen.findByRole('button', { name: 'Remove this requirement' }));
    expect(await screen.findByText('It was signed off.')).toBeTruthy();
    expect(location.search).toBe('?requirement=RQ-001');
    server.on('removeRequirement', () => ({ done: true }) as never);
    await user.click(screen.getByRole('button', { name: 'Remove this requirement' }));
    await waitFor(() => expect(location.search).toBe(''));
  });
});
