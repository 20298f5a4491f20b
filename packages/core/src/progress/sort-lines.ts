import type { Part } from './counted.ts';
import { sumPart } from './counted.ts';
import type { Counts } from './tally.ts';
import { getPassShare, getRunShare } from './tally.ts';

interface SortFacts {
  readonly word: string;
  /** Higher comes first; null comes last. */
  readonly rate: (counts: Counts) => number | null;
  /** The part of the bar that it looks at: left out of the bar, it is not sorted by. */
  readonly needs: Part | null;
}

const negate = (share: number | null) => (share === null ? null : -share);

/** By what the rows of the progress table are sorted, beside their own order. */
const SORT_FACTS = {
  errors: { word: 'Most failed or blocked', rate: (counts) => sumPart(counts, 'errors'), needs: 'errors' },
  rest: { word: 'Most not run yet', rate: (counts) => sumPart(counts, 'rest'), needs: 'rest' },
  passed: { word: 'Most passed', rate: (counts) => counts.passed, needs: 'passed' },
  'run share': { word: 'Least run', rate: (counts) => negate(getRunShare(counts)), needs: null },
  'pass share': { word: 'Least of the run passed', rate: (counts) => negate(getPassShare(counts)), needs: null },
} as const satisfies Readonly<Record<string, SortFacts>>;
export type LineSort = keyof typeof SORT_FACTS;
export const LINE_SORTS = Object.keys(SORT_FACTS) as [LineSort, ...LineSort[]];
export const getSortLabel = (sort: LineSort): string => SORT_FACTS[sort].word;
export const isSortFor = (sort: LineSort, parts: readonly Part[]): boolean =>
  SORT_FACTS[sort].needs === null || parts.includes(SORT_FACTS[sort].needs);

/** Lines in the wanted order; those that are alike keep the one they came in. */
export function sortLines<Line extends { readonly counts: Counts }>(lines: readonly Line[], sort: LineSort): Line[] {
  const { rate } = SORT_FACTS[sort];
  return lines
    .map((line) => ({ line, rated: rate(line.counts) ?? -Infinity }))
    .sort((a, b) => b.rated - a.rated || 0)
    .map(({ line }) => line);
}
