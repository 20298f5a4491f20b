import type { ListedRequirement, RequirementItem, Traceability } from '@kindred-baton/contracts/requirements/requirement';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { openScreen, Refusal } from '../../../test-support/open-screen.tsx';
import { Requirements } from './requirements-app.tsx';

const PASSED = { standing: 'passed', cycle: 'ACC-1', turns: 1, passed: 1 } as const;
const requirement = (code: string, more: Partial<ListedRequirement> = {}): ListedRequirement => ({
  ...{ id: `id-${code}` as ListedRequirement['id'], code, title: `What ${code} says`, kind: 'functional', priority: 'high' },
  ...{ state: 'verified', nodes: ['NS'], tests: ['BIL-01'] },
  proof: { cycles: [{ cycle: 'ACC-1', turns: 1, passed: 1 }], untried: 0 },
  ...more,
});
const ALL = [
  requirement('RQ-001'),
  requirement('RQ-002', { state: 'refuted', kind: 'acceptance', title: 'Bills are right' }),
  requirement('RQ-003', { state: 'not yet', tests: [], nodes: [], proof: { cycles: [], untried: 0 } }),
];
const VIEW: Traceability = {
  ...{ all: 3, left: 3, unserved: 1, rows: { page: 1, from: 0, size: 3 }, chosen: null, nextCode: 'RQ-004' },
  gaps: { 'no-test': 1, refuted: 1, 'not-yet': 1, partly: 0, verified: 1, nowhere: 1 },
  requirements: ALL,
  columns: { page: 1, from: 0, size: 2 },
  tests: [
    { code: 'BIL-01', name: 'Price', standing: PASSED, requirements: ['RQ-001'] },
    { code: 'BIL-09', name: 'Spare', standing: null, requirements: [] },
  ],
};

const toChosen = ({ nodes, tests, proof: _, ...item }: ListedRequirement): RequirementItem => ({
  ...{ ...item, description: '', nodes: nodes.map((code) => ({ code, name: code })) },
  tests: tests.map((code) => ({ code, name: code, standing: PASSED })),
});

function open(address = '/requirements') {
  const chosen = ALL.find(({ code }) => code === new URLSearchParams(address.split('?')[1]).get('requirement'));
  const opened = openScreen(<Requirements initial={{ ...VIEW, chosen: chosen ? toChosen(chosen) : null }} />, { address });
  // The server narrows: a few of the words are enough here.
  opened.server.on('getTraceability', ({ input }) => {
    const found = ALL.filter(
      (item) =>
        (input['kind'] === undefined || item.kind === input['kind']) &&
        String(input['words'] ?? '')
          .split(' ')
          .every((word) => item.title.toLowerCase().includes(word)) &&
        (input['show'] === undefined || item.state === input['show']),
    );
    const asked = ALL.find(({ code }) => code === input['requirement']);
    return {
      ...VIEW,
      left: input['show'] ? 3 : found.length,
      rows: { page: 1, from: 0, size: found.length },
      requirements: found,
      chosen: asked ? toChosen(asked) : null,
    };
  });
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
    await waitFor(() => expect([shown(), location.search]).toEqual([['RQ-002'], '?show=refuted']));
    await user.click(screen.getByRole('button', { name: '· 1 refuted' }));
    await waitFor(() => expect(shown()).toHaveLength(3));
    expect(screen.getByRole('link', { name: '· 1 test serves none' }).getAttribute('href')).toBe('/brindlemere/tests?serves=none');
  });

  it('are narrowed by words and kind, kept in the address; the numbers stay those of all that is left', async () => {
    const { user } = open();
    await user.type(screen.getByRole('searchbox', { name: 'Narrow the list' }), 'bills right');
    await waitFor(() => expect(shown()).toEqual(['RQ-002']));
    expect(location.search).toBe('?q=bills+right');
    await user.clear(screen.getByRole('searchbox', { name: 'Narrow the list' }));
    await user.click(screen.getByRole('button', { name: /^Kind/ }));
    await user.click(await screen.findByRole('option', { name: 'acceptance' }));
    await screen.findByText('1 requirement');
    expect(shown()).toEqual(['RQ-002']);
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

  it('say so when none is like that', async () => {
    const { user } = open();
    await user.type(screen.getByRole('searchbox', { name: 'Narrow the list' }), 'zebra');
    expect(await screen.findByText('None is like that here')).toBeTruthy();
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
    server.on('readTestLinks', ({ input }) => ({ codes: String(input['text']).split(/[,;] */) }));
    await user.click(dialog.getByRole('button', { name: 'Save' }));
    expect(await dialog.findByText('There is no test BIL-77.')).toBeTruthy();
    expect(server.calls.find(({ name }) => name === 'addRequirement')?.input).toMatchObject({
      title: 'Meters fit',
      tests: ['BIL-77', 'BIL-01', 'BIL-02'],
      nodes: [],
    });
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

  it('that are too many for a page are paged, and every test across a matrix too', async () => {
    const many = { page: 2, from: 40, size: 90 };
    const opened = openScreen(<Requirements initial={{ ...VIEW, rows: many, columns: { page: 1, from: 0, size: 31 } }} />, {
      address: '/requirements?view=matrix&page=2',
    });
    opened.server.on('getTraceability', () => VIEW);
    opened.show();
    expect(within(screen.getByRole('navigation', { name: 'Pages: Requirements' })).getByText('Requirements 41 to 43 of 90')).toBeTruthy();
    await opened.user.click(within(screen.getByRole('navigation', { name: 'Pages: Tests' })).getByRole('button', { name: 'Next' }));
    expect(location.search).toBe('?view=matrix&page=2&across=2');
    await waitFor(() => expect(opened.server.calls.at(-1)?.input).toMatchObject({ view: 'matrix', page: '2', across: '2' }));
  });

  it('are linked by a press in the matrix; what cannot be looked up is told, and what was shown stays', async () => {
    const { user, server } = open('/requirements?view=matrix');
    server.on('linkTest', () => ({ done: true }) as never);
    await user.click(screen.getByRole('button', { name: 'RQ-002 and BIL-09: not linked' }));
    expect(server.calls.find(({ name }) => name === 'linkTest')?.input).toEqual({ requirement: 'RQ-002', test: 'BIL-09', isLinked: true });
    server.on('getTraceability', () => {
      throw new Refusal('too large', 'Looking this up takes too long.');
    });
    await user.type(screen.getByRole('searchbox', { name: 'Narrow the list' }), 'x');
    expect(await screen.findByText('Looking this up takes too long.')).toBeTruthy();
    expect(screen.getByText('3 requirements')).toBeTruthy();
  });
});
