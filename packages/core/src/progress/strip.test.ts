import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TURN_STATUSES } from '../outcomes.ts';
import { NO_COUNTS } from './tally.ts';
import type { StripNode } from './strip.ts';
import { packStrip, unpackStrip } from './strip.ts';

const node: fc.Arbitrary<StripNode> = fc.record({
  code: fc.stringMatching(/^[A-Za-z0-9][A-Za-z0-9._-]{0,10}$/),
  name: fc.string({ minLength: 1 }).filter((name) => !name.includes('\n')),
  parent: fc.integer({ min: -1, max: 9_000 }),
  depth: fc.integer({ min: 0, max: 5 }),
  leaves: fc.integer({ min: 1, max: 9_000 }),
  counts: fc
    .array(fc.nat(50_000), { minLength: TURN_STATUSES.length, maxLength: TURN_STATUSES.length })
    .map((all) => ({ ...NO_COUNTS, ...Object.fromEntries(TURN_STATUSES.map((status, at) => [status, all[at] ?? 0])) })),
});

describe('a strip by columns', () => {
  it('comes out as it went in', () => {
    fc.assert(
      fc.property(fc.array(node), (nodes) => {
        expect(unpackStrip(packStrip(nodes))).toEqual(nodes);
      }),
    );
  });

  it('keeps a line for each node where a name has lines of its own', () => {
    const two = ['A', 'B'].map((code) => ({ code, name: 'one\ntwo', parent: -1, depth: 0, leaves: 1, counts: NO_COUNTS }));
    expect(unpackStrip(packStrip(two)).map(({ name }) => name)).toEqual(['one two', 'one two']);
  });
});
