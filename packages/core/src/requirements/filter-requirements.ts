import type { RequirementKind, RequirementState } from './requirement.ts';

/** What a requirement is narrowed by; places by their codes. */
export interface FilteredRequirement {
  readonly code: string;
  readonly title: string;
  readonly kind: RequirementKind;
  readonly state: RequirementState;
  readonly nodes: readonly { readonly code: string }[];
  readonly tests: readonly unknown[];
}

/** The gaps that traceability shows, and what else is counted; in this order. */
export const REQUIREMENT_GAPS = ['no-test', 'refuted', 'not-yet', 'partly', 'verified', 'nowhere'] as const;
export type RequirementGap = (typeof REQUIREMENT_GAPS)[number];

const GAP_TAKES: Readonly<Record<RequirementGap, (item: FilteredRequirement) => boolean>> = {
  'no-test': ({ tests }) => tests.length === 0,
  refuted: ({ state }) => state === 'refuted',
  'not-yet': ({ state }) => state === 'not yet',
  partly: ({ state }) => state === 'partly',
  verified: ({ state }) => state === 'verified',
  nowhere: ({ nodes }) => nodes.length === 0,
};

export interface RequirementNarrowing {
  readonly kind?: RequirementKind | undefined;
  /** Each stands in the code or the title. */
  readonly words?: string | undefined;
  /** Codes of the chosen branch; null: everywhere. A requirement at no process is in no branch. */
  readonly branch: ReadonlySet<string> | null;
}

export function filterRequirements<Item extends FilteredRequirement>(
  requirements: readonly Item[],
  narrowing: RequirementNarrowing,
): Item[] {
  const { kind, branch } = narrowing;
  const words = (narrowing.words ?? '').toLowerCase().split(/\s+/).filter(Boolean);
  return requirements.filter(
    (item) =>
      (branch === null || item.nodes.some(({ code }) => branch.has(code))) &&
      (kind === undefined || item.kind === kind) &&
      words.every((word) => `${item.code} ${item.title}`.toLowerCase().includes(word)),
  );
}

export const hasGap = (item: FilteredRequirement, gap: RequirementGap): boolean => GAP_TAKES[gap](item);

export function countGaps(requirements: readonly FilteredRequirement[]): Record<RequirementGap, number> {
  const count = (gap: RequirementGap) => requirements.filter(GAP_TAKES[gap]).length;
  return Object.fromEntries(REQUIREMENT_GAPS.map((gap) => [gap, count(gap)])) as Record<RequirementGap, number>;
}
