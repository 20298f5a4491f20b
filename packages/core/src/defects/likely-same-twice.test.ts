import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { DefectWords, KnownDefect } from './find-likely-same.ts';
import { findLikelySame } from './find-likely-same.ts';

const SMALL = 'the and was were that this with for but not there has had have instead'.split(' ');

/** The same worked out plainly: lists instead of sets, each figure by itself. */
function workOut(defect: DefectWords, known: readonly KnownDefect[]) {
  const wordsOf = ({ title, seen }: DefectWords) =>
    [...new Set(`${title} ${seen}`.toLowerCase().split(/[^a-z0-9]+/))].filter((word) => word.length >= 3 && !SMALL.includes(word));
  const valuesOf = ({ step }: DefectWords) => [
    ...new Set(
      step
        .split('"')
        .filter((part, at) => at % 2 === 1 && part !== '')
        .map((part) => part.toLowerCase()),
    ),
  ];
  const rarity = (word: string) => Math.log((known.length + 1) / (known.filter((other) => wordsOf(other).includes(word)).length + 1) + 1);
  const dice = (a: string[], b: string[], weigh: (word: string) => number) => {
    const total = [...a, ...b].map(weigh).reduce((x, y) => x + y, 0);
    return total === 0
      ? 0
      : (2 *
          a
            .filter((word) => b.includes(word))
            .map(weigh)
            .reduce((x, y) => x + y, 0)) /
          total;
  };
  return known
    .map((other) => {
      const isTest = defect.test !== null && other.test === defect.test;
      const isStep = isTest && other.stepIndex === defect.stepIndex;
      const [words, values] = [dice(wordsOf(defect), wordsOf(other), rarity), dice(valuesOf(defect), valuesOf(other), () => 1)];
      const why = [...(isStep ? ['step'] : []), ...(words >= 0.3 ? ['words'] : []), ...(values >= 0.5 ? ['values'] : [])];
      return { code: other.code, likeness: (isStep ? 0.35 : isTest ? 0.14 : 0) + words / 2 + values * 0.15, why };
    })
    .filter(({ likeness, why }) => likeness > 0.35 - 1e-12 && why.length > 0)
    .sort((a, b) => (Math.abs(a.likeness - b.likeness) > 1e-12 ? b.likeness - a.likeness : a.code.localeCompare(b.code)))
    .slice(0, 3);
}

describe('likely the same, worked out twice', () => {
  const words = fc
    .array(fc.constantFrom('charge', 'Band', 'the', 'of', 'quote', 'late', 'bill', 'ten', 'not'), { maxLength: 4 })
    .map((list) => list.join(' '));
  const defect = fc.record({
    test: fc.constantFrom(null, 'A', 'B'),
    stepIndex: fc.nat(2),
    ...{ title: words, expected: fc.constant(''), seen: words },
    step: fc.constantFrom('', 'Fill "Band" with "C"', 'Fill "band" with "A"', 'Press "Save"'),
  });
  it('gives the same defects, likeness and reasons (seed 4217)', () => {
    fc.assert(
      fc.property(defect, fc.array(defect, { maxLength: 8 }), (own, others) => {
        const known = others.map((other, at) => ({ ...other, code: `D-${at}` }));
        const round = (list: readonly { code: string; likeness: number; why: readonly string[] }[]) =>
          list.map(({ code, likeness, why }) => [code, likeness.toFixed(9), why]);
        expect(round(findLikelySame(own, known))).toEqual(round(workOut(own, known)));
      }),
      { seed: 4217, numRuns: 1_500 },
    );
  });
});
