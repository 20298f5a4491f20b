import type { OutlineNode } from '@kindred-baton/core/map/outline';
import { toOutlineTree } from '@kindred-baton/core/map/outline';
import { describe, expect, it } from 'vitest';
import type { Box } from './lay-out-boxes.ts';
import { layOutBoxes } from './lay-out-boxes.ts';

const node = (id: string, parentId: string | null, position: number) =>
  ({ id, code: id.toUpperCase(), name: id, parentId, position }) as unknown as OutlineNode;
const NODES = [
  node('s', null, 0),
  ...[node('a', 's', 0), node('b', 's', 1), node('c', 's', 2)],
  ...[node('b1', 'b', 0), node('b2', 'b', 1)],
  node('t', null, 1),
  node('t1', 't', 0),
];
const draw = (hasPools: boolean) => {
  const tree = toOutlineTree(NODES);
  const boxes = layOutBoxes(
    tree,
    NODES.filter(({ parentId }) => parentId === null),
    hasPools,
  );
  return { boxes, of: new Map(boxes.map((box) => [box.element, box])) };
};
const isWithin = (inner: Box, outer: Box) =>
  inner.x >= outer.x &&
  inner.y >= outer.y &&
  inner.x + inner.width <= outer.x + outer.width &&
  inner.y + inner.height <= outer.y + outer.height;
const middleOf = ({ y, height }: Box) => y + height / 2;

describe('processes as they are drawn', () => {
  it.each([true, false])('stand in a row from start to end, each flow from one edge to the next, at one height (pools: %s)', (hasPools) => {
    const { of } = draw(hasPools);
    for (const [holder, inside] of [
      ['S', ['A', 'B', 'C']],
      ['B', ['B1', 'B2']],
      ['T', ['T1']],
    ] as const) {
      const row = [`Start_${holder}`, ...inside.map((code) => `Node_${code}`), `End_${holder}`].map((name) => of.get(name)!);
      row.slice(1).forEach((next, index) => {
        const [before, flow] = [row[index]!, of.get(`Flow_${holder}_${index}`)!];
        expect([flow.x, flow.x + flow.width]).toEqual([before.x + before.width, next.x]);
        expect([middleOf(next), flow.y]).toEqual([middleOf(before), middleOf(before)]);
      });
      expect(of.has(`Flow_${holder}_${inside.length + 1}`)).toBe(false);
    }
  });

  it('stay within what holds them, with room at all sides; pools do not touch', () => {
    const { of, boxes } = draw(true);
    const [pool, other, b] = [of.get('Pool_S')!, of.get('Pool_T')!, of.get('Node_B')!];
    for (const name of ['Start_S', 'Node_A', 'Node_B', 'Node_C', 'End_S', 'Start_B', 'End_B'])
      expect([name, isWithin(of.get(name)!, pool)]).toEqual([name, true]);
    for (const name of ['Start_B', 'Node_B1', 'Node_B2', 'End_B']) expect([name, isWithin(of.get(name)!, b)]).toEqual([name, true]);
    expect([of.get('Start_B')!.x - b.x, b.x + b.width - of.get('End_B')!.x - of.get('End_B')!.width]).toEqual([40, 40]);
    expect(other.y).toBe(pool.y + pool.height + 40);
    expect([b.y - pool.y, pool.y + pool.height - b.y - b.height]).toEqual([40, 40]);
    const kinds = Object.fromEntries(
      ['task', 'inside', 'event', 'flow', 'pool'].map((kind) => [kind, boxes.filter((box) => box.kind === kind).length]),
    );
    expect(kinds).toEqual({ task: 5, inside: 1, event: 6, flow: 9, pool: 2 });
  });
});
