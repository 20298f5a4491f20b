import type { Clone } from '../find-clones.ts';
import type { SharedOpening } from './finding.ts';

const EXAMPLES = 3;

/** For each test the longest opening that others begin with too, from the clones of the whole library. Cost O(places). */
export function findSharedOpenings(clones: readonly Clone[]): Map<string, SharedOpening> {
  const openings = new Map<string, SharedOpening>();
  for (const { length, places } of clones) {
    const tests = [...new Set(places.flatMap(({ test, at }) => (at === 0 ? [test] : [])))];
    if (tests.length < 2) continue;
    const some = tests.slice(0, EXAMPLES + 1);
    for (const test of tests) {
      if ((openings.get(test)?.length ?? 0) >= length) continue;
      openings.set(test, { length, tests: some.filter((other) => other !== test).slice(0, EXAMPLES), count: tests.length - 1 });
    }
  }
  return openings;
}
