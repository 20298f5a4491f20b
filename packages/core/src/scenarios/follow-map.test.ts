import { describe, expect, it } from 'vitest';
import { findMapGaps, followMap } from './follow-map.ts';

const place = (id: string, parentId: string | null, isRetired = false) => ({ id, parentId, code: id, name: id, isRetired });
const places = [place('S', null), place('P', 'S'), place('A', 'P'), place('B', 'P'), place('C', 'P', true), place('T', null)];
const legs = (...nodes: readonly (string | null)[]) => nodes.map((nodeId, index) => ({ index, title: '', nodeId }));

describe('the way over the map', () => {
  it('has the activities of each process with their legs, those left out, and none that is retired and unused', () => {
    const [process] = followMap(legs('A', null, 'A'), places);
    expect(process?.node.id).toBe('P');
    expect(process?.activities.map(({ node, legs: own }) => [node.id, own])).toEqual([
      ['A', [0, 2]],
      ['B', []],
    ]);
    expect(followMap(legs('C'), places)[0]?.activities.map(({ node }) => node.id)).toEqual(['A', 'B', 'C']);
  });

  it('differs where a leg comes behind one that the map has later; two legs at one place do not', () => {
    expect(followMap(legs('A', 'A', 'B'), places)[0]?.reversals).toEqual([]);
    expect(followMap(legs('B', 'A', 'A'), places)[0]?.reversals).toEqual([{ leg: 1, after: 0 }]);
  });

  it('leaves gaps: top nodes through which nothing goes, activities at which no leg stands', () => {
    const gaps = findMapGaps(places, new Set(['A']));
    expect(JSON.stringify(gaps)).toContain('"T"');
    expect(JSON.stringify(gaps)).toContain('"B"');
    expect(JSON.stringify(gaps)).not.toContain('"id":"A"');
  });
});
