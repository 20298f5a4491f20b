import { alg, Graph } from '@dagrejs/graphlib';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createHeap } from './heap.ts';
import { layOutColumns } from './lay-out-columns.ts';
import { findBehind, orderNodes } from './order-nodes.ts';

/** Edges only back: without circles. */
const acyclic = fc
  .array(fc.array(fc.nat(20), { maxLength: 3 }), { maxLength: 12 })
  .map((rows) => rows.map((row, index) => [...new Set(row.filter((from) => from < index))]));
const any = fc
  .array(fc.array(fc.nat(8), { maxLength: 2 }), { maxLength: 9 })
  .map((rows) => rows.map((row) => [...new Set(row.filter((from) => from < rows.length))]));

function toGraph(after: readonly (readonly number[])[]): Graph {
  const graph = new Graph();
  after.forEach((_, node) => graph.setNode(String(node)));
  after.forEach((before, node) => before.forEach((from) => graph.setEdge(String(from), String(node))));
  return graph;
}

describe('the order of nodes', () => {
  it('puts each behind those before it, and leaves circles and what is behind them out', () => {
    expect(orderNodes([[], [0], [0, 1]])).toEqual({ order: [0, 1, 2], next: [[1, 2], [2], []], cyclic: [] });
    expect(orderNodes([[1], [0], [1], []]).cyclic).toEqual([0, 1, 2]);
    expect(orderNodes([[7]]).order).toEqual([0]);
  });

  it('agrees with an independent library on circles and on what comes behind (@dagrejs/graphlib; seed 3)', () => {
    fc.assert(
      fc.property(any, (after) => {
        const graph = toGraph(after);
        expect(orderNodes(after).cyclic.length === 0).toBe(alg.isAcyclic(graph));
        const { order } = orderNodes(after);
        const place = new Map(order.map((node, at) => [node, at]));
        for (const node of order) for (const from of after[node]!) expect(place.get(from)).toBeLessThan(place.get(node)!);
        if (after.length === 0) return;
        const behind = alg
          .preorder(graph, ['0'])
          .map(Number)
          .filter((node) => node !== 0)
          .sort((a, b) => a - b);
        expect(findBehind(after, 0)).toEqual(behind);
      }),
      { seed: 3, numRuns: 300 },
    );
  });

  it('lays columns out by the longest path: equal to trying every path (seed 4)', () => {
    const longest = (after: readonly (readonly number[])[], node: number): number =>
      Math.max(0, ...after[node]!.map((from) => longest(after, from) + 1));
    fc.assert(
      fc.property(acyclic, (after) => {
        expect(layOutColumns(after)).toEqual({ columnOf: after.map((_, node) => longest(after, node)), cyclic: [] });
      }),
      { seed: 4, numRuns: 300 },
    );
  });

  it('gives a node on a circle its own place as column', () =>
    expect(layOutColumns([[], [2], [1], [2]])).toEqual({ columnOf: [0, 1, 2, 3], cyclic: [1, 2, 3] }));
});

describe('a heap', () => {
  it('gives out in the order of a sort, whatever goes in when (seed 6)', () => {
    fc.assert(
      fc.property(fc.array(fc.option(fc.integer({ min: 0, max: 20 }), { freq: 3 })), (acts) => {
        const heap = createHeap<number>((a, b) => a < b);
        let twin: number[] = [];
        for (const act of acts) {
          if (act === null) {
            const [least, ...rest] = [...twin].sort((a, b) => a - b);
            expect(heap.peek()).toBe(least);
            expect(heap.pop()).toBe(least);
            twin = rest;
          } else {
            heap.push(act);
            twin.push(act);
          }
          expect(heap.size()).toBe(twin.length);
        }
      }),
      { seed: 6, numRuns: 200 },
    );
  });
});
