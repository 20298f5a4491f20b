import type { RequirementItem, Traceability } from '@kindred-baton/contracts/requirements/requirement';
import type { Proof } from '@kindred-baton/core/requirements/requirement';
import { gatherProof } from '@kindred-baton/core/requirements/requirement';

/** The gaps that traceability shows, and what else narrows the list; one line each. */
export const REQUIREMENT_FILTERS = [
  { key: 'no-test', name: 'no test', takes: ({ tests }: RequirementItem) => tests.length === 0 },
  { key: 'refuted', name: 'refuted', takes: ({ state }: RequirementItem) => state === 'refuted' },
  { key: 'not-yet', name: 'not yet shown', takes: ({ state }: RequirementItem) => state === 'not yet' },
  { key: 'partly', name: 'partly', takes: ({ state }: RequirementItem) => state === 'partly' },
  { key: 'verified', name: 'verified', takes: ({ state }: RequirementItem) => state === 'verified' },
  { key: 'nowhere', name: 'at no process', takes: ({ nodes }: RequirementItem) => nodes.length === 0 },
] as const;

export interface RequirementQuery {
  readonly show: string | null;
  readonly kind: string | null;
  readonly words: string;
  readonly isInScope: (code: string) => boolean;
  readonly hasScope: boolean;
}

/** What the address asks for; a requirement at no process is in no branch. */
export function filterRequirements(requirements: readonly RequirementItem[], query: RequirementQuery): RequirementItem[] {
  const filter = REQUIREMENT_FILTERS.find(({ key }) => key === query.show);
  const words = query.words.toLowerCase().split(/\s+/).filter(Boolean);
  return requirements.filter(
    (item) =>
      (!query.hasScope || item.nodes.some(({ code }) => query.isInScope(code))) &&
      (filter?.takes(item) ?? true) &&
      (query.kind === null || item.kind === query.kind) &&
      words.every((word) => `${item.code} ${item.title}`.toLowerCase().includes(word)),
  );
}

/** The tests that a matrix shows: those of the branch, and those that serve its requirements. */
export function listMatrixTests(
  { tests }: Traceability,
  shown: readonly RequirementItem[],
  isInScope: (code: string) => boolean,
): Traceability['tests'] {
  const linked = new Set(shown.flatMap((item) => item.tests.map(({ code }) => code)));
  return tests.filter(({ code, node }) => linked.has(code) || isInScope(node));
}

/** Over what the tests of a requirement were counted. */
export const toProof = ({ tests }: RequirementItem): Proof => gatherProof(tests.map(({ standing }) => standing));
