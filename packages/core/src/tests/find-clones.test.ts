import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Clone, CloneSource } from './find-clones.ts';
import { findClones } from './find-clones.ts';

/** The slow, plain twin: every run of every test, kept when it cannot be made longer on either side without losing a place. */
function findClonesPlainly(sources: readonly CloneSource[], shortest: number): Clone[] {
  const keys = sources.map(({ steps }) => steps.map(({ target }) => target));
  const placesOf = (run: readonly string[]) =>
    keys.flatMap((text, test) =>
      text.flatMap((_, at) => (run.every((key, k) => text[at + k] === key) ? [{ test: sources[test]?.test ?? '', at }] : [])),
    );
  const found = new Map<string, Clone>();
  for (const text of keys)
    for (let at = 0; at < text.length; at += 1)
      for (let length = shortest; at + length <= text.length; length += 1) {
        const run = text.slice(at, at + length);
        const places = placesOf(run);
        if (new Set(places.map(({ test }) => test)).size < 2) continue;
        const neighbours = (offset: number) =>
          new Set(
            places.map(({ test, at: from }) => keys[sources.findIndex((each) => each.test === test)]?.[from + offset] ?? `end of ${test}`),
          );
        const isOne = (set: Set<string>) => set.size === 1 && ![...set].some((key) => key.startsWith('end of'));
        if (!isOne(neighbours(-1)) && !isOne(neighbours(length))) found.set(run.join(' '), { length, places });
      }
  return [...found.values()];
}

const sort = (clones: readonly Clone[]) =>
  clones
    .map(
      ({ length, places }) =>
        `${length}: ${places
          .map(({ test, at }) => `${test}@${at}`)
          .sort()
          .join(' ')}`,
    )
    .sort();

const anyLibrary = fc
  .array(fc.array(fc.constantFrom('a', 'b', 'c'), { maxLength: 9 }), { maxLength: 5 })
  .map((texts) => texts.map((text, index) => ({ test: `T${index}`, steps: text.map((target) => ({ do: 'press' as const, target })) })));

describe('clone detection', () => {
  it('finds what its plain twin finds (seed 23)', () => {
    fc.assert(
      fc.property(anyLibrary, (sources) => {
        expect(sort(findClones(sources, 2))).toEqual(sort(findClonesPlainly(sources, 2)));
      }),
      { seed: 23, numRuns: 800 },
    );
  });

  it('takes steps as the same whatever their values', () => {
    const make = (test: string, value: string) => ({
      test,
      steps: ['A', 'B', 'C', 'D'].map((target) => ({ do: 'fill' as const, target, value })),
    });
    expect(findClones([make('X', '1'), make('Y', '2')])).toEqual([
      {
        length: 4,
        places: [
          { test: 'X', at: 0 },
          { test: 'Y', at: 0 },
        ],
      },
    ]);
  });
});
