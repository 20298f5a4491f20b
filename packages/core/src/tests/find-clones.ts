import { encodeTexts, findSharedRuns } from '../values/shared-runs.ts';
import type { Step } from './step.ts';

interface ClonePlace {
  readonly test: string;
  /** 0-based: where the run begins in that test. */
  readonly at: number;
}

/** A run of steps that stands in several tests. */
export interface Clone {
  readonly length: number;
  readonly places: readonly ClonePlace[];
}

export interface CloneSource {
  readonly test: string;
  readonly steps: readonly Step[];
}

export const SHORTEST_CLONE = 4;

/** What a step does and to what, whatever the value: two tests that fill the same fields differently share their steps. */
function toKey({ do: action, target, within = '', as = '' }: Step): string {
  return `${action}\u0001${target}\u0001${within}\u0001${as}`.toLowerCase();
}

/**
 * The longest common runs of normalised steps in two tests or more (values/shared-runs.ts). Cost O(steps × length of the longest shared
 * run), which is near linear in a library whose tests have tens of steps.
 */
export function findClones(sources: readonly CloneSource[], shortest = SHORTEST_CLONE): Clone[] {
  const texts = encodeTexts(sources.map(({ steps }) => steps.map(toKey)));
  return findSharedRuns(texts, shortest)
    .map(({ length, starts }) => ({
      length,
      places: starts.map(([test, at]) => ({ test: sources[test]?.test ?? '', at })),
    }))
    .sort((a, b) => b.length * b.places.length - a.length * a.places.length || b.length - a.length);
}
