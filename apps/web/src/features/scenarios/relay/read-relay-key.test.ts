import { describe, expect, it } from 'vitest';
import type { RelayPlace } from './read-relay-key.ts';
import { readRelayKey } from './read-relay-key.ts';

/** Legs 0 and 1 share a column (1 above 0); 2 stands behind them in the lower lane. */
const place = (index: number | null, more: Partial<RelayPlace> = {}): RelayPlace => ({
  ...{ index, canEdit: true, legs: [{ id: 'a' }, { id: 'b' }, { id: 'c' }] },
  relay: {
    lanes: [{ name: 'Desk' }, { name: 'Field' }],
    legs: [
      { index: 0, column: 0, y: 90, lane: 0 },
      { index: 1, column: 0, y: 10, lane: 0 },
      { index: 2, column: 1, y: 40, lane: 1 },
    ],
  } as unknown as RelayPlace['relay'],
  ...more,
});
const press = (key: string, index: number | null, more: { altKey?: boolean; isCommand?: boolean } = {}, at: Partial<RelayPlace> = {}) =>
  readRelayKey({ key, altKey: false, isCommand: false, ...more }, place(index, at));
const NOTHING = { kind: 'nothing' };

describe('keys of the relay', () => {
  it('walk the legs across, and stop at both ends', () => {
    expect([press('ArrowRight', 0), press('ArrowLeft', 1)]).toEqual([
      { kind: 'choose', index: 1 },
      { kind: 'choose', index: 0 },
    ]);
    expect([press('ArrowLeft', 0), press('ArrowRight', 2)]).toEqual([NOTHING, NOTHING]);
  });

  it('climb within a column by where the legs stand, not by their number', () => {
    expect(press('ArrowUp', 0)).toEqual({ kind: 'choose', index: 1 });
    expect(press('ArrowDown', 1)).toEqual({ kind: 'choose', index: 0 });
    expect([press('ArrowDown', 0), press('ArrowUp', 1), press('ArrowUp', 2)]).toEqual([NOTHING, NOTHING, NOTHING]);
  });

  it('move a leg before its neighbour, or to the end', () => {
    expect(press('ArrowLeft', 1, { altKey: true })).toEqual({ kind: 'move', leg: 'b', before: 'a' });
    expect(press('ArrowRight', 0, { altKey: true })).toEqual({ kind: 'move', leg: 'a', before: 'c' });
    expect(press('ArrowRight', 1, { altKey: true })).toEqual({ kind: 'move', leg: 'b', before: null });
    expect([press('ArrowLeft', 0, { altKey: true }), press('ArrowRight', 2, { altKey: true })]).toEqual([NOTHING, NOTHING]);
  });

  it('give a leg to the lane above or below, where there is one', () => {
    expect(press('ArrowDown', 0, { altKey: true })).toEqual({ kind: 'shift', index: 0, lane: 'Field' });
    expect(press('ArrowUp', 2, { altKey: true })).toEqual({ kind: 'shift', index: 2, lane: 'Desk' });
    expect([press('ArrowUp', 0, { altKey: true }), press('ArrowDown', 2, { altKey: true })]).toEqual([NOTHING, NOTHING]);
  });

  it('change nothing for who only looks on, but walk', () => {
    const looking = { canEdit: false };
    expect(press('ArrowRight', 0, { altKey: true }, looking)).toEqual(NOTHING);
    expect([press('Delete', 0, {}, looking), press('a', 0, {}, looking)]).toEqual([undefined, undefined]);
    expect(press('ArrowRight', 0, {}, looking)).toEqual({ kind: 'choose', index: 1 });
  });

  it('add, take out, draw larger and smaller, choose none', () => {
    expect([press('A', null), press('Delete', 2), press('+', null), press('=', 0), press('-', 0), press('Escape', 1)]).toEqual([
      { kind: 'add' },
      { kind: 'remove', index: 2 },
      { kind: 'zoom', by: 1 },
      { kind: 'zoom', by: 1 },
      { kind: 'zoom', by: -1 },
      { kind: 'choose', index: null },
    ]);
  });

  it('leave the browser its own: Ctrl A, arrows and Delete outside a leg, any other key', () => {
    expect([press('a', 0, { isCommand: true }), press('ArrowLeft', null), press('Delete', null), press('x', 0)]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
  });
});
