import { pushTo } from '../push-to.ts';
import { encodeTexts, findSharedRuns } from '../values/shared-runs.ts';

export interface OverlapSource {
  readonly code: string;
  /** The tests of its legs, in order; an open leg by a key of its own. */
  readonly tests: readonly string[];
}

/** One scenario that goes through all that another does, in the same order. */
interface Containment {
  readonly inner: string;
  readonly outer: string;
  readonly isEqual: boolean;
}

interface SharedStretch {
  readonly tests: readonly string[];
  readonly places: readonly { readonly scenario: string; /** 0-based leg. */ readonly at: number }[];
}

export interface Overlaps {
  readonly contained: readonly Containment[];
  readonly stretches: readonly SharedStretch[];
}

const SHORTEST_STRETCH = 3;

/**
 * Where scenarios repeat one another: those whose legs another has too, in the same order (so that a run of the other proves both), and
 * the stretches of at least three legs that several share, those that save the most first. Candidates for containment come from the rarest test
 * of each scenario; cost O(legs × length of the longest stretch) and O(candidates × legs).
 */
export function findOverlaps(scenarios: readonly OverlapSource[], shortest = SHORTEST_STRETCH): Overlaps {
  const texts = encodeTexts(scenarios.map(({ tests }) => tests));
  const stretches = findSharedRuns(texts, shortest)
    .map(({ length, starts }): SharedStretch => {
      const [text = 0, at = 0] = starts[0] ?? [];
      return {
        tests: scenarios[text]?.tests.slice(at, at + length) ?? [],
        places: starts.map(([scenario, place]) => ({ scenario: scenarios[scenario]?.code ?? '', at: place })),
      };
    })
    .sort((a, b) => b.tests.length * (b.places.length - 1) - a.tests.length * (a.places.length - 1) || b.tests.length - a.tests.length);
  return { contained: findContained(scenarios, texts), stretches };
}

function findContained(scenarios: readonly OverlapSource[], texts: readonly (readonly number[])[]): Containment[] {
  const scenariosOf = new Map<number, number[]>();
  texts.forEach((text, scenario) => {
    for (const test of new Set(text)) pushTo(scenariosOf, test, scenario);
  });
  return texts.flatMap((text, inner) => {
    if (text.length < 2) return [];
    const lists = text.map((test) => scenariosOf.get(test) ?? []);
    const rarest = lists.reduce((least, list) => (list.length < least.length ? list : least));
    return rarest.flatMap((outer): Containment[] => {
      const whole = texts[outer] ?? [];
      const isEqual = whole.length === text.length;
      // Of two that are the same, the later one names the earlier.
      if (outer === inner || whole.length < text.length || (isEqual && outer > inner) || !isSubsequence(text, whole)) return [];
      return [{ inner: scenarios[inner]?.code ?? '', outer: scenarios[outer]?.code ?? '', isEqual }];
    });
  });
}

function isSubsequence(part: readonly number[], whole: readonly number[]): boolean {
  let at = 0;
  for (const item of whole) if (item === part[at]) at += 1;
  return at === part.length;
}
