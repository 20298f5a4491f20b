import { describe, expect, it } from 'vitest';
import { layOutRelay } from './lay-out-relay.ts';
import { LEG } from './relay.ts';
import { traceWay } from './trace-way.ts';
import { wireChain } from './wire-chain.ts';

const field = (name: string) => ({ name, type: 'text' as const, required: true });
const leg = (id: string, more = {}) => ({ id, title: id, isOpen: false, needs: [], gives: [], ...more });

describe('the relay', () => {
  const legs = [
    leg('a', { gives: [field('X')] }),
    leg('b', { after: ['a'], needs: [field('X')] }),
    leg('c', { after: ['a'] }),
    leg('d', { after: ['b', 'c'], needs: [field('X')] }),
  ];
  const lanes: Readonly<Record<string, string>> = { a: 'Desk', b: 'Crews', c: 'Crews', d: 'Desk' };
  const relay = layOutRelay(wireChain(legs), { laneOf: (id) => lanes[id] ?? '' });

  it('has a row per lane in order of first use, and counts its legs', () => {
    expect(relay.lanes.map(({ name, legs: count }) => [name, count])).toEqual([
      ['Desk', 2],
      ['Crews', 2],
    ]);
  });

  it('puts legs that can run at the same time into one column, below one another in their lane', () => {
    const [b, c] = ['b', 'c'].map((id) => relay.legs.find((candidate) => candidate.id === id));
    expect(b?.x).toBe(c?.x);
    expect((c?.y ?? 0) - (b?.y ?? 0)).toBe(LEG.height + LEG.laneGap);
    expect(relay.columns).toHaveLength(3);
  });

  it('draws a wire for each hand-over with its values, and a faint one where a leg only waits', () => {
    expect(relay.wires.map(({ from, to, values }) => [from, to, values]).sort()).toEqual([
      ['a', 'b', ['X']],
      ['a', 'c', []],
      ['a', 'd', ['X']],
      ['b', 'd', []],
      ['c', 'd', []],
    ]);
    expect(relay.wires.every(({ path }) => /^M[\d.]+ [\d.]+/.test(path) && !path.includes('NaN'))).toBe(true);
  });

  it('gives wires that run side by side channels of their own, and the gap room for them', () => {
    const givers = ['a', 'b', 'c', 'd', 'e', 'f'];
    const crowd = givers.map((id) => leg(id, { after: [], gives: [field(id)] }));
    const takers = givers.map((id) => leg(`${id}2`, { after: [], needs: [field(id)] }));
    // The first lane hands to the last, the second to the last but one: all uprights cross the middle.
    const laneOf = (id: string) => (id.length === 1 ? id : `${id}`);
    const drawn = layOutRelay(wireChain([...crowd, ...takers]), { laneOf });
    const uprights = drawn.wires.map(({ path }) => /Q([\d.]+)/.exec(path)?.[1]);
    expect(new Set(uprights).size).toBeGreaterThan(4);
    expect((drawn.columns[1] ?? 0) - (drawn.columns[0] ?? 0) - LEG.width).toBeGreaterThan(LEG.leastGap);
  });

  it('gives long wires that run side by side into one row tracks of their own', () => {
    const long = ['X', 'Y', 'Z'];
    const line = [...long.map((name) => leg(name, { gives: [field(name)] })), leg('between'), leg('end', { needs: long.map(field) })];
    const drawn = layOutRelay(wireChain(line), { laneOf: (id) => (id === 'end' ? 'Desk' : 'Crews') });
    const heights = drawn.wires
      .filter(({ from, to }) => to === 'end' && from !== 'between')
      .map(({ path }) => longestLevel(path).toFixed(1));
    expect(heights).toHaveLength(3);
    expect(new Set(heights).size).toBe(3);
  });

  it('folds a lane to a slim row', () => {
    const folded = layOutRelay(wireChain(legs), { laneOf: (id) => lanes[id] ?? '', folded: new Set(['Crews']) });
    expect(folded.lanes.map(({ isFolded }) => isFolded)).toEqual([false, true]);
    expect(folded.height).toBeLessThan(relay.height);
  });

  it('tells waiting days at the wire', () => {
    const drawn = layOutRelay(wireChain(legs), { laneOf: () => 'Desk', waitDaysOf: (id) => (id === 'd' ? 5 : 0) });
    expect(drawn.wires.filter(({ waitDays }) => waitDays > 0).map(({ from, to }) => `${from}${to}`)).toEqual(['cd']);
  });

  it('holds 60 legs, none, and a circle', () => {
    const many = layOutRelay(wireChain(Array.from({ length: 60 }, (_, i) => leg(String(i)))), { laneOf: (id) => `lane ${Number(id) % 6}` });
    expect([many.columns.length, many.lanes.length, many.legs.length]).toEqual([60, 6, 60]);
    expect(layOutRelay(wireChain([]), { laneOf: () => '' }).columns).toEqual([]);
    const circle = layOutRelay(wireChain([leg('a', { after: ['b'] }), leg('b')]), { laneOf: () => 'Desk' });
    expect(circle.wires.every(({ path }) => !path.includes('NaN'))).toBe(true);
  });
});

describe('the way of a leg and of a value', () => {
  const chain = wireChain([
    leg('a', { gives: [field('X'), field('Y')] }),
    leg('b', { needs: [field('X')], gives: [field('Z')] }),
    leg('c', { needs: [field('Z')] }),
    leg('d', { needs: [field('Y')] }),
  ]);

  it('goes back to all that reaches a leg and on to all that it reaches', () => {
    expect([...traceWay(chain, 'b').legs].sort()).toEqual(['a', 'b', 'c']);
    expect([...traceWay(chain, 'a').wires].sort()).toEqual(['a b', 'a d', 'b c']);
  });

  it('of a value goes to those who take it', () => {
    expect([...traceWay(chain, 'a', 'y').wires]).toEqual(['a d']);
  });
});

/** The height of the longest level piece of a path. */
function longestLevel(path: string): number {
  const points = [...path.matchAll(/(-?[\d.]+) (-?[\d.]+)/g)].map(([, x, y]) => ({ x: Number(x), y: Number(y) }));
  const pieces = points.flatMap((from, index) => {
    const to = points[index + 1];
    return to && Math.abs(to.y - from.y) < 0.01 ? [{ length: Math.abs(to.x - from.x), y: from.y }] : [];
  });
  return pieces.sort((a, b) => b.length - a.length)[0]?.y ?? Number.NaN;
}

describe('tracks of long wires', () => {
  const far = (giver: string, taker: string) => [
    leg(giver, { gives: [field(giver)] }),
    leg('m' + giver),
    leg('n' + giver),
    leg(taker, { needs: [field(giver)] }),
  ];
  const heightOf = (drawn: ReturnType<typeof layOutRelay>, from: string) =>
    Number(longestLevel(drawn.wires.find((wire) => wire.from === from && wire.values.length > 0)?.path ?? '').toFixed(1));

  it('are shared by wires that run one behind the other, and set apart to both sides where they run side by side', () => {
    const long = ['V', 'W', 'X', 'Y', 'Z'];
    const line = [...long.map((name) => leg(name, { gives: [field(name)] })), leg('between'), leg('end', { needs: long.map(field) })];
    const beside = layOutRelay(wireChain(line), { laneOf: (id) => (id === 'end' ? 'Desk' : 'Crews') });
    const heights = long.map((from) => heightOf(beside, from));
    expect(new Set(heights).size).toBe(5);
    const [middle = 0] = heights.filter((height) => heights.filter((other) => other < height).length === 2);
    const steps = heights.map((height) => height - middle).sort((a, b) => a - b);
    // As far below as above: the first in the middle, then one to each side, then the next.
    expect(steps.map((step) => Math.round((2 * step) / (steps[4] ?? 1)))).toEqual([-2, -1, 0, 1, 2]);
    const behind = layOutRelay(wireChain([...far('A', 'B'), ...far('C', 'D')]), {
      laneOf: (id) => (['B', 'D'].includes(id) ? 'Desk' : 'Crews'),
    });
    expect(heightOf(behind, 'A')).toBe(heightOf(behind, 'C'));
  });
});
