/** Defects that are likely the same: the same step of the same test, and the same words of what was seen. */
export interface DefectWords {
  readonly test: string | null;
  readonly stepIndex: number;
  readonly title: string;
  readonly expected: string;
  readonly seen: string;
  /** The step as it was done, with its values. */
  readonly step: string;
}

export interface KnownDefect extends DefectWords {
  readonly code: string;
}

export interface LikelySame {
  readonly code: string;
  /** 0 to 1. */
  readonly likeness: number;
  readonly why: readonly ('step' | 'words' | 'values')[];
}

const THRESHOLD = 0.35;
const SHOWN = 3;
const WEIGHTS = { step: 0.35, words: 0.5, values: 0.15 } as const;

/**
 * The likeliest first, at most three. A third of the weight is the step, half are the words (Dice's coefficient over words, rare ones counted
 * higher by inverse document frequency, Spärck Jones 1972), the rest the values. The weights are ours. Cost O(defects × words).
 */
export function findLikelySame(defect: DefectWords, known: readonly KnownDefect[]): LikelySame[] {
  const rarity = weighWords(known);
  const own = toWords(`${defect.title} ${defect.seen}`);
  return known
    .map((other) => {
      const isStep = other.test !== null && other.test === defect.test && other.stepIndex === defect.stepIndex;
      const isTest = other.test !== null && other.test === defect.test;
      const words = compareWords(own, toWords(`${other.title} ${other.seen}`), rarity);
      const values = compareWords(toValues(defect.step), toValues(other.step), () => 1);
      const likeness = (isStep ? 1 : isTest ? 0.4 : 0) * WEIGHTS.step + words * WEIGHTS.words + values * WEIGHTS.values;
      const why = [
        ...(isStep ? (['step'] as const) : []),
        ...(words >= 0.3 ? (['words'] as const) : []),
        ...(values >= 0.5 ? (['values'] as const) : []),
      ];
      return { code: other.code, likeness, why };
    })
    .filter(({ likeness, why }) => likeness >= THRESHOLD && why.length > 0)
    .sort((a, b) => b.likeness - a.likeness || (a.code < b.code ? -1 : 1))
    .slice(0, SHOWN);
}

function toWords(text: string): Set<string> {
  return new Set(
    (
      text
        .normalize('NFKC')
        .toLowerCase()
        .match(/[\p{L}\p{N}]+/gu) ?? []
    ).filter((word) => word.length > 2 && !SMALL.has(word)),
  );
}

const SMALL = new Set(['the', 'and', 'was', 'were', 'that', 'this', 'with', 'for', 'but', 'not', 'there', 'has', 'had', 'have', 'instead']);

function toValues(step: string): Set<string> {
  return new Set([...step.matchAll(/"([^"]+)"/g)].map(([, value = '']) => value.toLowerCase()));
}

function weighWords(known: readonly DefectWords[]): (word: string) => number {
  const counts = new Map<string, number>();
  for (const { title, seen } of known) for (const word of toWords(`${title} ${seen}`)) counts.set(word, (counts.get(word) ?? 0) + 1);
  return (word) => Math.log(1 + (known.length + 1) / ((counts.get(word) ?? 0) + 1));
}

function compareWords(a: ReadonlySet<string>, b: ReadonlySet<string>, weigh: (word: string) => number): number {
  const sum = (words: Iterable<string>) => [...words].reduce((total, word) => total + weigh(word), 0);
  const all = sum(a) + sum(b);
  return all > 0 ? (2 * sum([...a].filter((word) => b.has(word)))) / all : 0;
}
