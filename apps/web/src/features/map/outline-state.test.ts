import type { MapNode, MapView } from '@kindred-baton/contracts/map/node';
import { toOutlineTree } from '@kindred-baton/core/map/outline';
import { describe, expect, it } from 'vitest';
import { listShown, placeNew, toAddEdit, toDropEdit, toPasteEdits } from './outline-state.ts';

const node = (code: string, parent: string | null, depth: number): MapNode =>
  ({ id: code, code, name: `Name ${code}`, parentId: parent, depth }) as unknown as MapNode;
/** A { A1 { A11 } A2 } B */
const nodes = [node('A', null, 0), node('A1', 'A', 1), node('A11', 'A1', 2), node('A2', 'A', 1), node('B', null, 0)];
const [a, a1, a11, a2, b] = nodes as [MapNode, MapNode, MapNode, MapNode, MapNode];
const view = { nodes, levels: ['S', 'P', 'A'], codeScheme: ['AA', '{parent}-9', '{parent}.9'] } as unknown as MapView;
const tree = toOutlineTree(nodes);

describe('a new node', () => {
  it('goes right below the chosen one, under the last shown row of its branch', () => {
    expect(placeNew(tree, a1, 'sibling', nodes)).toEqual({ parent: 'A', at: 1, depth: 1, under: 'A11' });
    expect(placeNew(tree, a2, 'sibling', nodes)).toEqual({ parent: 'A', at: 2, depth: 1, under: 'A2' });
    expect(placeNew(tree, b, 'sibling', nodes)).toEqual({ parent: null, at: 2, depth: 0, under: 'B' });
  });
  it('goes below it as its last child, or to the end of the top', () => {
    expect(placeNew(tree, a, 'child', nodes)).toEqual({ parent: 'A', at: 2, depth: 1, under: 'A2' });
    expect(placeNew(tree, a, 'child', [a, b])).toMatchObject({ under: 'A' });
    expect(placeNew(tree, undefined, 'child', nodes)).toEqual({ parent: null, at: 2, depth: 0, under: 'B' });
    expect(placeNew(toOutlineTree([]), undefined, 'sibling', [])).toEqual({ parent: null, at: 0, depth: 0, under: null });
  });
  it('gets a code that is free, by the scheme of its level', () => {
    const edit = toAddEdit(view, placeNew(tree, a, 'child', nodes), 'Billing');
    expect(edit).toMatchObject({ kind: 'add', name: 'Billing', parent: 'A', at: 2 });
    expect(nodes.map(({ code }) => code)).not.toContain(edit.code);
  });
});

describe('a pasted outline', () => {
  const line = (depth: number, name: string, code: string | null = null) => ({ depth, name, code }) as never;
  it('keeps codes that are free, makes others, and hangs each line below the one above it', () => {
    const edits = toPasteEdits(view, { parent: 'B', at: 0, depth: 1 }, [
      line(0, 'One', 'B-7'),
      line(1, 'In one', 'A1'),
      line(0, 'Two', 'not a code'),
      line(1, 'In two'),
    ]);
    expect(edits).toMatchObject([
      { code: 'B-7', parent: 'B', at: 0 },
      { parent: 'B-7', at: 100_000 },
      { parent: 'B', at: 1 },
      { parent: (edits[2] as { code: string }).code },
    ]);
    const codes = edits.map((edit) => (edit as { code: string }).code);
    expect(new Set([...codes, ...nodes.map(({ code }) => code)]).size).toBe(codes.length + nodes.length);
  });
  it('cuts names that are too long', () => {
    const [edit] = toPasteEdits(view, { parent: null, at: 0, depth: 0 }, [line(0, 'x'.repeat(300))]);
    expect((edit as { name: string }).name).toHaveLength(200);
  });
});

describe('dragged nodes', () => {
  const drop = (codes: readonly string[], target: MapNode, kind: 'before' | 'inside' | 'after') =>
    toDropEdit(nodes, new Set(codes), target, kind);
  it('go before, after or into a row; of a branch only its top moves', () => {
    expect(drop(['B'], a, 'before')).toEqual({ kind: 'move', places: [{ code: 'B', parent: null, at: 0 }] });
    expect(drop(['A1', 'A11'], a2, 'after')).toEqual({ kind: 'move', places: [{ code: 'A1', parent: 'A', at: 1 }] });
    expect(drop(['A2', 'B'], a1, 'inside')).toEqual({
      kind: 'move',
      places: [
        { code: 'A2', parent: 'A1', at: 1 },
        { code: 'B', parent: 'A1', at: 2 },
      ],
    });
  });
  it('do not go onto themselves, and nothing is not moved', () => {
    expect([drop(['A1'], a1, 'before'), drop([], a, 'after')]).toEqual([null, null]);
  });
});

describe('the rows that are shown', () => {
  it('leave out what lies in closed branches', () => {
    const shown = (closed: readonly string[]) => listShown(nodes, new Set(closed)).map(({ code }) => code);
    expect([shown([]).length, shown(['A1']), shown(['A']), shown(['A', 'A1'])]).toEqual([
      5,
      ['A', 'A1', 'A2', 'B'],
      ['A', 'B'],
      ['A', 'B'],
    ]);
    expect(a11.depth).toBe(2);
  });
});
