import { wireChain } from '@kindred-baton/core/scenarios/wire-chain';
import { describe, expect, it } from 'vitest';
import { LEG, layOutRelay } from './lay-out-relay.ts';

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
  const relay = layOutRelay(wireChain(legs), (id) => lanes[id] ?? '');

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
    expect(relay.columns).toBe(3);
  });

  it('draws a wire for each hand-over with its values, and a faint one where a leg only waits', () => {
    expect(relay.wires.map(({ from, to, values }) => [from, to, values])).toEqual([
      ['a', 'b', ['X']],
      ['a', 'c', []],
      ['a', 'd', ['X']],
      ['b', 'd', []],
      ['c', 'd', []],
    ]);
    expect(relay.wires.every(({ path }) => /^M[\d.]+ [\d.]+/.test(path) && !path.includes('NaN'))).toBe(true);
  });

  it('holds 60 legs, and none', () => {
    const many = layOutRelay(wireChain(Array.from({ length: 60 }, (_, i) => leg(String(i)))), (id) => `lane ${Number(id) % 6}`);
    expect([many.columns, many.lanes.length, many.legs.length]).toEqual([60, 6, 60]);
    expect(layOutRelay(wireChain([]), () => '').columns).toBe(0);
  });
});
