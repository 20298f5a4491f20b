import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareLists } from './compare-lists.ts';

const compare = (before: readonly string[], after: readonly string[]) =>
  compareLists(before, after, { toKey: (item) => item, likes: [(a, b) => a[0] === b[0]] });
const kinds = (before: string, after: string) => compare([...before], [...after]).map(({ kind }) => kind);

/** The longest common subsequence, by trying every choice: the plain twin (Wagner & Fischer 1974 is what the module does). */
function longest(a: readonly string[], b: readonly string[]): number {
  if (a.length === 0 || b.length === 0) return 0;
  const [[first, ...restA], [other, ...restB]] = [a, b];
  return first === other ? 1 + longest(restA, restB) : Math.max(longest(restA, b), longest(a, restB));
}

describe('two lists', () => {
  it('keep as many items in their place as can be kept, and account for every item once (seed 9)', () => {
    const list = fc.array(fc.constantFrom('a', 'b', 'c'), { maxLength: 6 });
    fc.assert(
      fc.property(list, list, (before, after) => {
        const differences = compare(before, after);
        expect(differences.filter(({ kind }) => kind === 'same')).toHaveLength(longest(before, after));
        const seen = (side: 'before' | 'after') =>
          differences.flatMap((line) => (side in line ? [(line as never as Record<string, { index: number }>)[side]!.index] : []));
        expect([...seen('before')].sort((a, b) => a - b)).toEqual(before.map((_, index) => index));
        expect(seen('after')).toEqual(after.map((_, index) => index));
      }),
      { seed: 9, numRuns: 400 },
    );
  });

  it('tell what moved from what was taken out and put in', () => {
    expect(kinds('abc', 'cab')).toEqual(['moved', 'same', 'same']);
    expect(kinds('ab', 'b')).toEqual(['removed', 'same']);
    expect(kinds('', 'a')).toEqual(['added']);
  });

  it('take what is like another in the same gap for changed', () => {
    expect(compare(['x1', 'y'], ['x2', 'y']).map(({ kind }) => kind)).toEqual(['changed', 'same']);
    expect(compare(['x1', 'y'], ['y', 'x2']).map(({ kind }) => kind)).toEqual(['removed', 'same', 'added']);
  });
});
