import { compareVersions } from '../tests/compare-versions.ts';
import type { Step } from '../tests/step.ts';

/** A version of a test with its steps. */
export interface VersionSteps {
  readonly id: string;
  readonly number: number;
  readonly steps: readonly Step[];
}

/** A step where it stands: a version, and its place in it from 0. */
export interface StepPlace {
  readonly version: string;
  readonly index: number;
}

/** What a step may change and mean the same: it does the same to the same thing with the same value. */
const BESIDES: ReadonlySet<keyof Step> = new Set(['expect', 'seconds', 'keepAs', 'optional', 'as']);

/**
 * For every version of one test and each place in it where that step stands last: in the newest version that still has it. Versions are compared one with the
 * next, so that what was taken out long ago is one step as well. Cost O(versions × steps²).
 */
export function placeSteps(versions: readonly VersionSteps[]): ReadonlyMap<string, readonly StepPlace[]> {
  const places = new Map<string, readonly StepPlace[]>();
  let newer: VersionSteps | undefined;
  for (const version of [...versions].sort((a, b) => b.number - a.number)) {
    const own: StepPlace[] = version.steps.map((_, index) => ({ version: version.id, index }));
    const over = newer && places.get(newer.id);
    for (const row of newer ? compareVersions(version.steps, newer.steps) : []) {
      if (row.kind === 'added' || row.kind === 'removed') continue;
      const isSame = row.kind !== 'changed' || row.fields.every((field) => BESIDES.has(field));
      const place = over?.[row.after.index];
      if (isSame && place) own[row.before.index] = place;
    }
    places.set(version.id, own);
    newer = version;
  }
  return places;
}
