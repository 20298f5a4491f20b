import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { packRows, unpackRows } from './pack-rows.ts';

const row = fc.record({
  id: fc.string(),
  team: fc.constantFrom('A', 'B', null),
  after: fc.array(fc.nat(9)),
  minutes: fc.integer(),
});

describe('rows by columns', () => {
  it('come out as they went in, also through JSON', () =>
    fc.assert(
      fc.property(fc.array(row), (rows) => {
        expect(unpackRows(JSON.parse(JSON.stringify(packRows(rows, ['team']))) as never)).toEqual(rows);
      }),
    ));

  it('say what repeats once', () => {
    const rows = ['x', 'y', 'x'].map((team, at) => ({ at, team }));
    expect(packRows(rows, ['team'])).toEqual({ columns: { at: [0, 1, 2], team: [0, 1, 0] }, among: { team: ['x', 'y'] } });
  });
});
