import type { Hangs, MapNode, MapView } from '@kindred-baton/contracts/map/node';
import { DEFAULT_CODE_SCHEME } from '@kindred-baton/core/map/code-scheme';
import type { MapEdit } from '@kindred-baton/core/map/edit-outline';
import { editOutline } from '@kindred-baton/core/map/edit-outline';
import { getDepth, toOutlineTree } from '@kindred-baton/core/map/outline';
import { RIGHTS } from '@kindred-baton/core/programmes/roles';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { openScreen, Refusal } from '../../../test-support/open-screen.tsx';
import { ProcessMap } from './map-app.tsx';

const LEVELS = ['Stream', 'Process', 'Activity'];
const node = (code: string, parent: string | null, name = `Name ${code}`): MapNode => ({
  ...{ id: `id-${code}` as MapNode['id'], code, name, parentId: parent === null ? null : (`id-${parent}` as MapNode['id']), depth: 0 },
  ...{ team: null, application: null, owner: null, isCritical: false, isRetired: false, isChanged: false, hasChildren: false },
  ...{ tests: 1, scenarios: 0, requirements: 2, covered: 1 },
});
const layOut = (nodes: readonly MapNode[]): MapView => {
  const tree = toOutlineTree(nodes);
  return {
    ...{
      levels: LEVELS,
      codeScheme: [...DEFAULT_CODE_SCHEME],
      since: null,
      totals: { tests: 4, scenarios: 0 },
      more: { nodes: 0, changed: 0 },
    },
    nodes: nodes.map((each) => ({
      ...each,
      depth: getDepth(tree, each),
      hasChildren: (tree.childrenOf.get(each.id) ?? []).length > 0,
    })),
  };
};
const START = layOut([node('NS', null), node('NS-1', 'NS'), node('NS-2', 'NS'), node('LR', null)]);
const FREE: Hangs = { nodes: 1, tests: [], scenarios: [], requirements: [], turns: 0, signOffs: 0 };

/** The map before a server that keeps what it is told, by core’s own rules. */
function open({
  rights = RIGHTS,
  address = '/map',
  view = START,
}: { rights?: typeof RIGHTS | never[]; address?: string; view?: MapView } = {}) {
  let now = view;
  const opened = openScreen(<ProcessMap initial={view} />, { rights, address });
  const { server } = opened;
  server.on('getMap', () => now);
  server.on('getHangs', () => FREE);
  server.on('editMap', ({ input }) => {
    const create = ({ code, name }: { code: string; name: string }) => node(code, null, name);
    const edited = editOutline(now.nodes, input['edits'] as MapEdit<MapNode>[], { levels: LEVELS, create });
    if (!edited.ok) throw new Refusal('conflict', edited.message);
    now = layOut(edited.nodes);
    return { undo: edited.undo } as never;
  });
  opened.show();
  const tree = screen.queryByRole('tree', { name: 'Process map' });
  const codes = () => now.nodes.map(({ code, depth }) => `${'.'.repeat(depth)}${code}`);
  return { ...opened, tree: tree as HTMLElement, codes, names: () => now.nodes.map(({ name }) => name) };
}
const rows = () => screen.getAllByRole('treeitem').map((row) => row.children[0]?.textContent);
const selected = () => screen.getAllByRole('treeitem', { selected: true }).map((row) => row.children[0]?.textContent);

describe('the outline', () => {
  it('of a long map begins with its first nodes, counts them all, and can be edited once the others are here', async () => {
    const first = { ...START, nodes: START.nodes.slice(0, 2), more: { nodes: 2, changed: 1 }, since: { code: 'C-1', name: 'One' } };
    let answer: (view: MapView) => void = () => {};
    const opened = openScreen(<ProcessMap initial={first} />, { address: '/map' });
    opened.server.on('getMap', () => new Promise((come) => (answer = come)));
    opened.show();
    expect(screen.getByText('4 nodes in 3 levels · 4 tests · 0 scenarios · 1 changed since C-1 opened')).toBeTruthy();
    expect(screen.getByText('The other 2 nodes are on their way …')).toBeTruthy();
    expect([rows().length, screen.queryByRole('button', { name: 'New Stream' })]).toEqual([2, null]);
    await waitFor(() => expect(opened.server.count('getMap')).toBe(1));
    answer(START);
    await screen.findByRole('button', { name: 'New Stream' });
    expect(rows()).toHaveLength(4);
  });

  it('says in its first line what the map holds, and shows each node with its level', () => {
    open();
    expect(screen.getByText('4 nodes in 3 levels · 4 tests · 0 scenarios')).toBeTruthy();
    expect(screen.getAllByRole('treeitem').map((row) => row.getAttribute('aria-level'))).toEqual(['1', '2', '2', '1']);
  });

  it('is walked, closed and opened by arrows; what is chosen is in the address', async () => {
    const { user, tree } = open();
    tree.focus();
    await user.keyboard('{ArrowDown}');
    expect(selected()).toEqual(['NS']);
    expect(location.search).toBe('?node=NS');
    await user.keyboard('{ArrowLeft}');
    expect(rows()).toEqual(['NS', 'LR']);
    await user.keyboard('{ArrowDown}');
    expect(selected()).toEqual(['LR']);
    await user.keyboard('{Home}{ArrowRight}{End}');
    expect([rows(), selected()]).toEqual([['NS', 'NS-1', 'NS-2', 'LR'], ['LR']]);
  });

  it('takes new nodes one after the other by Enter, each with the next code, and goes on until Esc', async () => {
    const { user, tree, codes } = open({ address: '/map?node=NS-1' });
    tree.focus();
    await user.keyboard('{Enter}');
    await user.keyboard('Meter{Enter}');
    await user.keyboard('Bill  it{Enter}');
    await user.keyboard('{Escape}');
    await waitFor(() => expect(codes()).toEqual(['NS', '.NS-1', '.NS-3', '.NS-4', '.NS-2', 'LR']));
    expect(screen.getByText('Bill it')).toBeTruthy();
    expect(screen.queryByLabelText('Name of the new node')).toBeNull();
    await user.keyboard('{Control>}z{/Control}');
    await waitFor(() => expect(codes()).not.toContain('.NS-4'));
  });

  it('inside a node of the lowest level a new one becomes its sibling', async () => {
    const { user, tree, codes } = open({ address: '/map?node=NS-1', view: layOut([...START.nodes.slice(0, 2), node('NS-1.1', 'NS-1')]) });
    tree.focus();
    await user.keyboard('{ArrowDown}{Control>}{Enter}{/Control}Deeper{Enter}{Escape}');
    await waitFor(() => expect(codes()).toEqual(['NS', '.NS-1', '..NS-1.1', '..NS-1.2']));
  });

  it('renames in place; an empty name and Esc change nothing', async () => {
    const { user, tree, names, server } = open({ address: '/map?node=LR' });
    tree.focus();
    await user.keyboard('{F2}Leak{Enter}');
    await waitFor(() => expect(names()).toContain('Leak'));
    tree.focus();
    await user.keyboard('{F2}');
    await user.clear(screen.getByLabelText('Name of LR'));
    await user.keyboard('{Enter}');
    tree.focus();
    await user.keyboard('{F2}Other{Escape}');
    expect(server.count('editMap')).toBe(1);
    expect(names()).toContain('Leak');
  });

  it('moves what is marked up, in and out; what cannot move stays', async () => {
    const { user, tree, codes, server } = open({ address: '/map?node=NS-2' });
    tree.focus();
    await user.keyboard('{Alt>}{ArrowUp}{/Alt}');
    await waitFor(() => expect(codes()).toEqual(['NS', '.NS-2', '.NS-1', 'LR']));
    await user.keyboard('{Alt>}{ArrowUp}{/Alt}');
    await user.keyboard('{Alt>}{ArrowLeft}{/Alt}');
    await waitFor(() => expect(codes()).toEqual(['NS', '.NS-1', 'NS-2', 'LR']));
    expect(server.count('editMap')).toBe(2);
  });

  it('marks several with Shift, tells how many, and removes them together after saying what hangs on them', async () => {
    const { user, tree, codes } = open({ address: '/map?node=NS-1' });
    tree.focus();
    await user.keyboard('{Shift>}{ArrowDown}{/Shift}');
    expect(screen.getByText('2 marked')).toBeTruthy();
    await user.keyboard('{Delete}');
    const dialog = await screen.findByRole('dialog');
    await user.click(await within(dialog).findByRole('button', { name: 'Remove' }));
    await waitFor(() => expect(codes()).toEqual(['NS', 'LR']));
  });

  it('takes a pasted outline as a branch below the chosen node, as one edit', async () => {
    const { tree, codes, server } = open({ address: '/map?node=LR' });
    fireEvent.paste(tree, { clipboardData: { getData: () => 'Report\n\tTake the call\nMend' } });
    await waitFor(() => expect(codes()).toEqual(['NS', '.NS-1', '.NS-2', 'LR', '.LR-1', '..LR-1.1', '.LR-2']));
    expect(await screen.findByText('3 nodes pasted below Name LR.')).toBeTruthy();
    expect(server.count('editMap')).toBe(1);
  });

  it('rolls an edit back that the server refuses, with its reason', async () => {
    const { user, tree, server } = open({ address: '/map?node=NS-2' });
    server.on('editMap', () => {
      throw new Refusal('conflict', 'Edda Quill has just moved it.');
    });
    tree.focus();
    await user.keyboard('{Alt>}{ArrowUp}{/Alt}');
    expect(await screen.findByText('Edda Quill has just moved it.')).toBeTruthy();
    await waitFor(() => expect(rows()).toEqual(['NS', 'NS-1', 'NS-2', 'LR']));
    expect(screen.getByRole('button', { name: 'Undo' })).toHaveProperty('disabled', true);
  });

  it('shows one branch when the strip scopes to it', () => {
    open({ address: '/map?scope=LR' });
    expect(rows()).toEqual(['LR']);
  });

  it('is only walked by who may not edit it', async () => {
    const { user, tree, server } = open({ rights: [] });
    tree.focus();
    await user.keyboard('{ArrowDown}{Enter}{Delete}{F2}{Alt>}{ArrowDown}{/Alt}');
    expect(selected()).toEqual(['NS']);
    expect(screen.queryByRole('textbox')).toBeNull();
    expect(screen.queryByRole('button', { name: /New/ })).toBeNull();
    expect(server.count('editMap')).toBe(0);
  });

  it('says how to begin when it is empty', () => {
    open({ view: layOut([]) });
    expect(screen.getByText('The map is empty')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'New Stream' })).toBeTruthy();
  });
});

describe('removing a branch', () => {
  const ask = async (hangs: Partial<Hangs>) => {
    const opened = open({ address: '/map?node=NS-2' });
    opened.server.on('getHangs', () => ({ ...FREE, ...hangs }));
    opened.server.on('getOutline', () => ({
      ...{ codes: START.nodes.map(({ code }) => code), names: START.nodes.map(({ name }) => name), parents: START.nodes.map(() => -1) },
    }));
    opened.tree.focus();
    await opened.user.keyboard('{Delete}');
    return { ...opened, dialog: within(await screen.findByRole('dialog')) };
  };
  const item = (code: string) => ({ id: code as never, code, name: `Name ${code}` });

  it('with nothing on it says that it can be undone', async () => {
    const { dialog } = await ask({ nodes: 3 });
    expect(await dialog.findByText('With it go 2 nodes below. Nothing hangs on it. It can be undone.')).toBeTruthy();
  });

  it('moves what hangs on it first, and removes only once that is done', async () => {
    const { dialog, user, server, codes } = await ask({ tests: [item('BIL-01'), item('BIL-02')] });
    await user.selectOptions(await dialog.findByRole('combobox', { name: 'Move all of that to' }), 'LR');
    server.on('moveHangs', () => {
      throw new Refusal('conflict', 'LR is retired.');
    });
    await user.click(dialog.getByRole('button', { name: 'Move, then remove' }));
    expect(await screen.findByText('LR is retired.')).toBeTruthy();
    expect(codes()).toContain('.NS-2');
    server.on('moveHangs', () => ({ moved: 2 }));
    await user.click(dialog.getByRole('button', { name: 'Move, then remove' }));
    await waitFor(() => expect(codes()).not.toContain('.NS-2'));
    expect(server.calls.find(({ name }) => name === 'moveHangs')?.input).toEqual({ codes: ['NS-2'], to: 'LR' });
  });

  it('with something recorded on it can only retire it', async () => {
    const { dialog, user, server } = await ask({ turns: 4 });
    await user.click(await dialog.findByRole('button', { name: 'Retire it instead' }));
    expect(dialog.queryByRole('button', { name: /remove/i })).toBeNull();
    await waitFor(() =>
      expect(server.calls.find(({ name }) => name === 'editMap')?.input).toEqual({
        edits: [{ kind: 'change', code: 'NS-2', change: { isRetired: true } }],
      }),
    );
  });
});
